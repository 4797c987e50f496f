"""Core errors of sound in words for the person at the microphone."""

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.errors import CoreError
from core.kinds.finding import Finding
from core.kinds.glide.in_session import reaches_ends
from core.kinds.registry import findings
from core.kinds.strength import strength_of
from core.reason import Reason
from core.reference.values import BROKEN_OFF_UNDER
from core.sound.figures import Figures
from web.design.numbers import filled, number_text
from web.kinds.registry import face_of
from web.kinds.strength import of_a_strong_voice, strength_to_client
from web.measuring.sinks import Permit

MOST_FOR_CLIENT = 2


def sound_words(error: CoreError) -> str:
    """What happened and what to do."""
    words = {
        "sound_empty": _("The recording is empty. Try the hold again, or type the seconds."),
        "sound_unreadable": _("The recording cannot be read. Use WAV, FLAC or OGG."),
        "sound_truncated": _("The recording was cut off on its way. It is sent again."),
        "sound_too_large": _("The recording is over 25 MB. Stop sooner after the hold."),
        "sound_too_long": _("The recording is over 120 s. Stop sooner after the hold."),
        "rate_out_of_limits": _("The sample rate must lie between 8 and 96 kHz."),
        "sound_not_finite": _("The recording holds values that are no sound."),
    }
    return words.get(error.code, _("The recording cannot be measured."))


_WHY: dict[str, Promise] = {
    "clipped": gettext_lazy("The sound is too loud for the microphone: move back."),
    "too_quiet": gettext_lazy("Your voice is very quiet here: move closer."),
    "noisy": gettext_lazy("There is a lot of noise in the room: close the window, or move closer."),
    "more_than_one_voice": gettext_lazy("More than one voice was heard: practice alone."),
    "no_hold": gettext_lazy("Some voice was heard, but no held note."),
    "nothing_heard": gettext_lazy("No voice was heard."),
    "no_voice": gettext_lazy("Sound was heard, but hardly any voice."),
    "whispered": gettext_lazy("Hardly any voice in this: do not whisper."),
    "not_speech": gettext_lazy("This was held notes or music, not speech."),
    "stopped_early": gettext_lazy("The reading seems to stop early."),
    "voice_not_breath": gettext_lazy("Voice was heard, not breath."),
    "breath_inaudible": gettext_lazy(
        "The breath cannot be heard here: count it, or use the stopwatch."
    ),
    "device_lost_sound": gettext_lazy(
        "The device lost sound: close other programs, then try again."
    ),
}


def _to_client(reason: Reason) -> str:
    """Why an attempt is not simply good, in the client's words."""
    return str(_WHY.get(reason.code, reason))


def attempt_words(figures: Figures | None, permit: Permit) -> str:
    """One line about an attempt, in the client's or the clinician's words."""
    if figures is None:
        return _("Saved. (Time only: the microphone was off.)") if permit.task else _("Saved.")
    reasons = " ".join(map(_to_client if permit.for_client else str, figures.quality.reasons))
    if figures.hold_s is None:
        return _("This could not be measured. %(why)s") % {"why": reasons}
    if not figures.hold_s:
        return _("Nothing was measured. %(why)s") % {"why": reasons}
    words = _for_client(figures, permit) if permit.for_client else _for_clinician(figures)
    return f"{words} {reasons}".strip()


def _for_client(figures: Figures, permit: Permit) -> str:
    found = findings(figures)[:MOST_FOR_CLIENT]
    strength = strength_of(figures, permit.level) if permit.strong else None
    shouted = any(one.code == "shouted" for one in (*found, strength) if one)
    if strength:
        found = [strength, *found] if shouted else [*found, strength]
    held_s, target_s = figures.hold_s or 0.0, permit.target_s or 0.0
    if held_s < BROKEN_OFF_UNDER.number * target_s and _for_seconds(figures) and not shouted:
        values = {"seconds": held_s, "target": target_s}
        return filled(
            _("%(seconds).1f s. Take a breath and try again: aim for %(target)g s."), values
        )
    said = [filled(_("%(seconds).1f s."), {"seconds": held_s})]
    if shouted:
        # What was shouted is never praised.
        found = [finding for finding in found if finding.code != "over_target"]
    elif target_s and held_s >= target_s and _for_seconds(figures):
        said.append(_("Target reached."))
    glide = figures.glide
    if glide and reaches_ends(glide, permit.slides, permit.a4_hz) is False:
        found = [finding for finding in found if finding.code != "glide"]
        said.append(_("Your voice moved, but not yet to both ends. Slide a little further."))
    said += [client_words(figures.task, one, strong=permit.strong) for one in found]
    return " ".join(filter(None, said))


def _for_seconds(figures: Figures) -> bool:
    return face_of(figures.task).for_seconds and not figures.glide


def _for_clinician(figures: Figures) -> str:
    said = [filled(_("%(seconds).2f s"), {"seconds": figures.hold_s})]
    if figures.f0_median_hz is not None:
        said.append(f"{number_text(figures.f0_median_hz, '.1f')} Hz")
    if figures.pitch_error_cents is not None:
        said.append(filled(_("%(cents)+.0f cents"), {"cents": figures.pitch_error_cents}))
    if figures.f0_sd_semitones is not None:
        said.append(filled(_("pitch SD %(sd).2f semitones"), {"sd": figures.f0_sd_semitones}))
    return ", ".join(said) + "."


def client_words(task: str, finding: Finding, *, strong: bool = False) -> str:
    """A finding in plain words with what to try; strong: strength was asked for."""
    own = of_a_strong_voice(finding) if strong else None
    if own is None:
        own = face_of(task).to_client(finding)
    return own if own is not None else strength_to_client(finding) or ""


def clinician_words(task: str, finding: Finding) -> str:
    """A finding in the field's terms with its numbers."""
    pattern = face_of(task).to_clinician(finding)
    return filled(pattern, finding.values) if pattern else ""
