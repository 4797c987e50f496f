"""Lines of Today about how the client lives, in the client's words."""

from collections.abc import Iterable

from django.utils.translation import gettext as _

from core.reason import Reason
from core.safety.circumstances import ON_THE_DAY
from web.design.speaking import in_their_words


def own_lines(reasons: Iterable[Reason]) -> list[str]:
    """Each line in the language that is spoken."""
    return [_line(reason) for reason in reasons]


def _line(reason: Reason) -> str:
    if reason.code == ON_THE_DAY.code:
        words = _("Today: %(event)s. Warm up softly and do not practice at full strength.")
        return words % reason.params
    return in_their_words(str(reason))
