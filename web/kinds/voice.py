"""What is said of any voice that holds or slides; shared by the kinds that do."""

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.kinds.finding import Finding
from core.reference.values import A_HALF_STEP_OFF, A_LITTLE_OFF


def voice_to_client(finding: Finding) -> str | None:
    """Of the note, breaks, onset, steadiness."""
    values = finding.values
    if finding.code == "off_note":
        return _off_note(values["cents"])
    if finding.code == "other_octave":
        higher = values["octaves"] > 0
        return _("Higher than the note.") if higher else _("Lower than the note.")
    if finding.code == "gaps":
        count = int(values["count"])
        return ngettext("The voice cut out once.", "The voice cut out a few times.", count)
    return {
        "jumps": _("The voice jumped: that may happen, go on."),
        "faded": _("It faded at the end: stop a little sooner."),
        "unsteady": _("It moved a little: try it softer."),
        "tremor": _("It swayed gently."),
        "hard_onset": _("It began hard: let it begin softly."),
        "breathy_onset": _("Some breath came first."),
        "steady": _("Steady."),
    }.get(finding.code)


def _off_note(cents: float) -> str:
    """Say how far a note is off (cents, positive: above): a little, a half step, or well off."""
    higher = cents > 0
    if abs(cents) <= A_LITTLE_OFF.number:
        return _("A little above the note.") if higher else _("A little below the note.")
    if abs(cents) <= A_HALF_STEP_OFF.number:
        if higher:
            return _("A half step above the note. Listen to the tone again.")
        return _("A half step below the note. Listen to the tone again.")
    if higher:
        return _("Well above the note. Listen to the tone again.")
    return _("Well below the note. Listen to the tone again.")


def voice_to_clinician(finding: Finding) -> str | None:
    """The same in the field's terms."""
    return {
        "off_note": _("Pitch %(cents)+.0f cents from the target."),
        "other_octave": _("About %(octaves)+.0f octave from the target."),
        "gaps": _("%(count)d gap(s) of 60 ms and more, the longest %(longest_s).2f s."),
        "jumps": _("%(count)d jump(s) of 4 semitones and more."),
        "faded": _("Trails off: %(trail_off_db)+.1f dB from the first to the last fifth."),
        "unsteady": _("Unsteady: pitch SD %(sd_semitones).2f semitones."),
        "tremor": _("Tremor %(rate_hz).1f Hz, %(extent_cents).0f cents either side."),
        "hard_onset": _("Hard onset."),
        "breathy_onset": _("Breathy onset."),
        "steady": _("Steady: pitch SD %(sd_semitones).2f semitones."),
    }.get(finding.code)
