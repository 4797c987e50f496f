"""Following what stands out of the room while it happens: breath, bubbles of air."""

from core.kinds.aim import AttemptTarget
from core.kinds.kind import HearsVoice, Newest
from core.kinds.settings import LIVE


class HearsWhatStandsOut(HearsVoice):
    """The task's own sound is whatever stands out of the quietest heard so far."""

    def __init__(self, _aim: AttemptTarget | None = None) -> None:
        self._quietest_db = 0.0

    def heard(self, newest: Newest) -> list[bool]:
        self._quietest_db = min([self._quietest_db, *newest.levels_db])
        return [level > self._quietest_db + LIVE.over_quietest_db for level in newest.levels_db]
