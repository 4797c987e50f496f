"""What voice through a tube in water comes to in a home session."""

from collections.abc import Sequence

from core.kinds.bubbles.figures import Bubbling
from core.kinds.in_session import SessionFigure, TriedAttempt, breaks, figure, seconds_held

_PER_S = 10.0


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: best_s, mean_s, share; bubbling (bubbles a second), stops: how often the bubbles stopped, in
    10 s of all attempts together; gaps, jumps of the voice."""
    return (
        *seconds_held(tries),
        figure(
            "bubbling",
            tries,
            lambda tried: own.rate_hz if (own := _own(tried)) else None,
        ),
        _stops(tries),
        *breaks(tries),
    )


def _own(tried: TriedAttempt) -> Bubbling | None:
    own = tried.known.own if tried.known else None
    return own if isinstance(own, Bubbling) else None


def _stops(tries: Sequence[TriedAttempt]) -> SessionFigure:
    heard = [(tried, own) for tried in tries if tried.seconds and (own := _own(tried))]
    if not heard:
        return figure("stops", tries, lambda _tried: None)
    seconds = sum(tried.seconds or 0.0 for tried, _own in heard)
    stops = sum(len(own.stops) for _tried, own in heard)
    return SessionFigure(code="stops", value=_PER_S * stops / seconds)
