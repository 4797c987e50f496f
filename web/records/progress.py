"""How far a long work is, for the page that waits; in the shared cache, so that any process can say it."""

from collections.abc import Callable
from uuid import UUID

from django.core.cache import cache

_LASTS_S = 3600


def progress_reporter(clinic_id, key: str) -> Callable[[int, int], None]:
    """A callback that stores how much of a long task is done under the page's key. Invalid keys are ignored."""
    try:
        name = _name(clinic_id, UUID(key))
    except ValueError:
        return lambda done, total: None
    return lambda done, total: cache.set(name, [done, total], _LASTS_S)


def done_so_far(clinic_id, key: UUID) -> tuple[int, int] | None:
    """So many of so many; None where nothing was told yet."""
    found = cache.get(_name(clinic_id, key))
    return (found[0], found[1]) if found else None


def _name(clinic_id, key: UUID) -> str:
    return f"records-progress-{clinic_id}-{key}"
