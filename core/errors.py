"""Errors the core raises: a machine-readable code with parameters; the web layer finds the words."""

from typing import Any


class CoreError(Exception):
    """Base of all core errors. `code` names the rule, `params` what came and what would work."""

    def __init__(self, code: str, **params: Any) -> None:
        self.code = code
        self.params = params
        shown = ", ".join(f"{key}={value!r}" for key, value in params.items())
        super().__init__(f"{code}({shown})" if shown else code)

    def __reduce__(self) -> tuple[Any, ...]:
        return (_rebuild, (type(self), self.code, self.params))


def _rebuild(kind: type[CoreError], code: str, params: dict[str, Any]) -> CoreError:
    return kind(code, **params)


class NoteError(CoreError, ValueError):
    """A note or pitch that cannot be used. A ValueError too: readers of files collect it."""


class SoundError(CoreError):
    """Sound that cannot be read or measured."""


class PlanError(CoreError, ValueError):
    """A program, target or range that cannot be prescribed. A ValueError too, as NoteError."""
