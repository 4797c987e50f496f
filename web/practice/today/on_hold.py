"""What a client is told when the program rests."""

from collections.abc import Sequence

from django.utils.translation import gettext as _

from core.safety.gate import Gate
from core.safety.stop import OpenSign, StopSign
from web.clinic.models import Clinic
from web.clinic.records import Unreadable
from web.practice.models import HomeSession
from web.programs.client_file import ClientFile


def resting_words(gate: Gate, clinic: Clinic) -> str | None:
    """Whom to call; None if the program may be practiced."""
    if not gate.blocks:
        return None
    if gate.emergency:
        values = {"number": clinic.emergency_number}
        return _("A drooping face or slurred speech is an emergency: call %(number)s now.") % values
    return _("Your program rests for now. Please call the clinic.")


def stop_words(signs: Sequence[OpenSign]) -> str:
    """What the client said when they stopped last; "" where no stop sign stands. signs: the newest last."""
    if not signs:
        return ""
    return {
        StopSign.PAIN: _("You told us that it hurt."),
        StopSign.LIGHT_HEADED: _("You told us that you felt light-headed."),
        StopSign.CHOKING: _("You told us that you choked or had a long cough."),
        StopSign.VOICE_WORSE: _("You told us that your voice was suddenly worse."),
        StopSign.BREATHING: _("You told us that it was hard to breathe."),
        StopSign.CHEST_PAIN: _("You told us that your chest hurt."),
        StopSign.FAINTING: _("You told us that you fainted or nearly did."),
        StopSign.ANOTHER: _("You told us that something new has come."),
    }[signs[-1].sign]


def rests_now(session: HomeSession) -> str | None:
    """Words for a home session that is open while something was found that rests the program."""
    file = ClientFile.now(session.client)
    try:
        return resting_words(file.running_gate_of(session.version), session.client.clinic)
    except Unreadable:
        return _("Your program rests for now. Please call the clinic.")
