"""Every kind of figure by its code."""

from collections.abc import Mapping
from types import MappingProxyType

from core.figures.baseline import BASELINE_FIGURES
from core.figures.kind import FigureKind
from core.figures.session import SESSION_FIGURES, STRAIN_AFTER

FIGURES: Mapping[str, FigureKind] = MappingProxyType(
    {kind.code: kind for kind in (*SESSION_FIGURES, STRAIN_AFTER, *BASELINE_FIGURES)}
)
RULE_FIGURES: Mapping[str, FigureKind] = MappingProxyType(
    {kind.code: kind for kind in SESSION_FIGURES}
)
"""Those that the rules for home sessions may name."""
PER_DEVICE = frozenset(kind.code for kind in SESSION_FIGURES if kind.per_device)
"""Figures of a home session that compare only within one device."""
