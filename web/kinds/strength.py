"""What is said of how strong a strong sound was, whatever was sung or said."""

from django.utils.translation import gettext as _

from core.kinds.finding import Finding


def strength_to_client(finding: Finding) -> str | None:
    return {
        "shouted": _("That was shouted: strong, without pressing."),
        "under_target": _("A little stronger: send it across the room."),
        "over_target": _("Strong enough."),
    }.get(finding.code)


def of_a_strong_voice(finding: Finding) -> str | None:
    """Where strength is asked for nothing asks for softness; None for what is said as ever."""
    return {
        "unsteady": _("It moved a little: keep it even."),
        "faded": _("It faded at the end: keep the end as strong."),
        "hard_onset": _("It began hard: take a breath, then begin without a push."),
        "breathy_onset": _("Some breath came first: let the voice begin at once."),
    }.get(finding.code)
