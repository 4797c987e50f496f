"""Core errors in words: what came, what was expected, a value that works."""

from django.utils.translation import gettext as _

from core.errors import CoreError
from core.fitting.why_words import why_words
from web.design.numbers import filled


def core_words(error: CoreError) -> str:
    """One or two sentences for a core error."""
    texts = {
        "note_unknown": _("“%(name)s” is no note. Write it like %(example)s or C#4."),
        "note_out_of_limits": _("%(name)s lies outside %(low)s–%(high)s (60–1000 Hz)."),
        "range_upside_down": _(
            "The lowest note %(lowest)s is not below the highest %(highest)s. Swap them."
        ),
        "note_outside_range": _("The %(which)s note %(note)s lies outside %(lowest)s–%(highest)s."),
        "hold_out_of_limits": _("A hold of %(seconds)g s is not possible: %(low)g–%(high)g s."),
        "range_too_small": _(
            "A range of %(semitones)s semitones is too small: even three notes need %(needed)s."
        ),
        "standard_outside": _(
            "The standard notes do not fit this range. Choose the shifted notes instead."
        ),
        "probes_missing": _("The soft-hold probes are missing: measure them in the Baseline."),
        "repetitions_out_of_limits": _("%(came)s repetitions: between %(low)s and %(high)s."),
        "rest_out_of_limits": _("A rest of %(seconds)g s: between %(low)s and %(high)s s."),
        "dose_out_of_limits": _("%(which)s is %(came)s: between %(low)s and %(high)s."),
        "rung_unknown": _("There is no such rung: the program has %(rungs)s."),
        "edit_unreadable": _("This change could not be read. Reload the page; nothing was saved."),
        "program_empty": _("The last step cannot be removed."),
        "step_unknown": _("This step is no longer part of the draft. Reload the page."),
        "hold_unknown": _("This note is no longer part of the step. Reload the page."),
        "goal_missing": _("Choose a goal or type its seconds."),
        "no_school": _("Choose at least one school."),
        "no_want": _("Choose what the client wants, or choose schools."),
        "distance_out_of_limits": _(
            "%(cm)g cm: the distance lies between %(low)g and %(high)g cm."
        ),
        "meter_out_of_limits": _("%(db)g dB: a reading lies between %(low)g and %(high)g dB."),
        "glide_without_span": _("A glide needs two different notes."),
    }
    try:
        return filled(texts[error.code], error.params)
    except (KeyError, TypeError):
        why = why_words(error)
        return f"{why[0].upper()}{why[1:]}."
