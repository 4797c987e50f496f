"""The face of every kind; a kind of the core without one does not load."""

import importlib
from collections.abc import Mapping
from functools import cache

from core.errors import SoundError
from core.kinds.registry import kinds
from web.kinds.face import Face


@cache
def faces() -> Mapping[str, Face]:
    """Faces by the name of the kind; SoundError("kind_broken") where one lacks its own."""
    found = {}
    for name in kinds():
        try:
            found[name] = importlib.import_module(f"web.kinds.{name}").FACE
        except (ImportError, AttributeError, TypeError) as error:
            raise SoundError("kind_broken", folder=name, reason=str(error)) from error
    return found


def face_of(task: str) -> Face:
    """The face of a measured task."""
    return faces()[task]
