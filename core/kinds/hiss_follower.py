"""Following a hiss while it happens."""

from core.kinds.kind import HearsVoice, Newest
from core.sound.settings.hiss import HISS


class HearsHiss(HearsVoice):
    """The task's own sound is loud and nearly all hiss."""

    def heard(self, newest: Newest) -> list[bool]:
        shares = newest.frames.high_share.tolist()
        return [
            loud and share > HISS.share for loud, share in zip(newest.loud, shares, strict=True)
        ]


class HearsHissAndVoice(HearsHiss):
    """The task's own sound is a hiss, a voice or both."""

    def heard(self, newest: Newest) -> list[bool]:
        hisses = super().heard(newest)
        return [a or b for a, b in zip(hisses, newest.voiced, strict=True)]
