"""Core errors of sound in words for the person at the microphone."""

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.errors import CoreError
from core.sound.figures import Figures
from core.sound.finding import Finding
from core.sound.findings import findings
from core.sound.task_findings import strength_of
from web.measuring.ends import Permit
from web.measuring.task_words import task_words_for_client, task_words_for_clinician

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


def attempt_words(figures: Figures | None, permit: Permit) -> str:
    """One line about an attempt, in the client's or the clinician's words."""
    if figures is None:
        return _("Kept, timed by the stopwatch.") if permit.task else _("Kept.")
    reasons = " ".join(reason.text for reason in figures.quality.reasons)
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
    said = [_("%(seconds).1f s.") % {"seconds": figures.hold_s}]
    if shouted:
        # What was shouted is never praised.
        found = [finding for finding in found if finding.code != "over_target"]
    elif permit.target_s and (figures.hold_s or 0) >= permit.target_s and not figures.glide:
        said.append(_("That is this week's hold."))
    say = strong_words if permit.strong else client_words
    return " ".join(filter(None, [*said, *map(say, found)]))


def strong_words(finding: Finding) -> str:
    """A finding about a strong sound: nothing asks for softness."""
    own = {
        "unsteady": _("It moved a little: keep it even."),
        "faded": _("It faded at the end: keep the end as strong."),
        "hard_onset": _("It began hard: take a breath, then begin without a push."),
        "breathy_onset": _("Some breath came first: let the voice begin at once."),
    }.get(finding.code)
    return own if own is not None else client_words(finding)


def _for_clinician(figures: Figures) -> str:
    said = [_("%(seconds).2f s") % {"seconds": figures.hold_s}]
    if figures.f0_median_hz is not None:
        said.append(f"{figures.f0_median_hz:.1f} Hz")
    if figures.pitch_error_cents is not None:
        said.append(f"{figures.pitch_error_cents:+.0f} cents")
    if figures.f0_sd_semitones is not None:
        said.append(_("pitch SD %(sd).2f semitones") % {"sd": figures.f0_sd_semitones})
    return ", ".join(said) + "."


def client_words(finding: Finding) -> str:
    """A finding in plain words with what to try, for the person who held the note."""
    values = finding.values
    if finding.code == "off_note":
        higher = values["cents"] > 0
        return _("A little above the note.") if higher else _("A little below the note.")
    if finding.code == "other_octave":
        higher = values["octaves"] > 0
        return _("Higher than the note.") if higher else _("Lower than the note.")
    if finding.code == "gaps":
        return ngettext(
            "The voice cut out once.", "The voice cut out a few times.", values["count"]
        )
    own = task_words_for_client(finding)
    if own is not None:
        return own
    return {
        "jumps": _("The voice jumped: that may happen, go on."),
        "faded": _("It faded at the end: stop a little sooner."),
        "unsteady": _("It moved a little: try it softer."),
        "tremor": _("It swayed gently."),
        "hard_onset": _("It began hard: let it begin softly."),
        "breathy_onset": _("Some breath came first."),
        "glide": _("A slide through your notes."),
        "steady": _("Steady."),
    }[finding.code]


def clinician_words(finding: Finding) -> str:
    """A finding in the field's terms with its numbers."""
    pattern = (
        task_words_for_clinician(finding)
        or {
            "off_note": _("Pitch %(cents)+.0f cents from the target."),
            "other_octave": _("About %(octaves)+.0f octave from the target."),
            "gaps": _("%(count)d gap(s) of 60 ms and more, the longest %(longest_s).2f s."),
            "jumps": _("%(count)d jump(s) of 4 semitones and more."),
            "faded": _("Trails off: %(trail_off_db)+.1f dB from the first to the last fifth."),
            "unsteady": _("Unsteady: pitch SD %(sd_semitones).2f semitones."),
            "tremor": _("Tremor %(rate_hz).1f Hz, %(extent_cents).0f cents either side."),
            "hard_onset": _("Hard onset."),
            "breathy_onset": _("Breathy onset."),
            "glide": _(
                "Glide over %(span_semitones).1f semitones, evenness %(evenness).2f semitones."
            ),
            "steady": _("Steady: pitch SD %(sd_semitones).2f semitones."),
        }[finding.code]
    )
    return pattern % finding.values
