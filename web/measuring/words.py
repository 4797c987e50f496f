"""Core errors of sound in words for the person at the microphone."""

from django.utils.translation import gettext as _

from core.errors import CoreError
from core.reference.values import HOLD_PITCH_SD, HOLD_TRAIL_OFF
from core.sound.figures import Figures
from web.measuring.ends import Permit


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


def attempt_words(figures: Figures | None, permit: Permit) -> str:
    """One line about an attempt, in the client's or the clinician's words."""
    if figures is None:
        return _("Kept, timed by the stopwatch.")
    reasons = " ".join(reason.text for reason in figures.quality.reasons)
    if figures.hold_s is None:
        return _("This could not be measured. %(why)s") % {"why": reasons}
    if not figures.hold_s:
        return _("Nothing was held. %(why)s") % {"why": reasons}
    words = _for_client(figures, permit) if permit.for_client else _for_clinician(figures)
    return f"{words} {reasons}".strip()


def _for_client(figures: Figures, permit: Permit) -> str:
    said = [_("%(seconds).1f s.") % {"seconds": figures.hold_s}]
    if figures.glide:
        said.append(_("A slide through your notes."))
        return " ".join(said)
    if permit.target_s and (figures.hold_s or 0) >= permit.target_s:
        said.append(_("That is this week's hold."))
    if figures.f0_sd_semitones is not None:
        steady = figures.f0_sd_semitones <= HOLD_PITCH_SD.number
        said.append(_("Steady.") if steady else _("It moved a little: try it softer."))
    if figures.trail_off_db is not None and figures.trail_off_db < -HOLD_TRAIL_OFF.number:
        said.append(_("It faded at the end."))
    return " ".join(said)


def _for_clinician(figures: Figures) -> str:
    said = [_("%(seconds).2f s") % {"seconds": figures.hold_s}]
    if figures.f0_median_hz is not None:
        said.append(f"{figures.f0_median_hz:.1f} Hz")
    if figures.pitch_error_cents is not None:
        said.append(f"{figures.pitch_error_cents:+.0f} cents")
    if figures.f0_sd_semitones is not None:
        said.append(_("pitch SD %(sd).2f semitones") % {"sd": figures.f0_sd_semitones})
    return ", ".join(said) + "."
