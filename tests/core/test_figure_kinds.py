"""Figures: published codes stay, rules look in the right direction, exports know every unit."""

import pytest

from core.figures.baseline import BASELINE_FIGURES
from core.figures.kind import FigureKind, Higher, Unit
from core.figures.registry import FIGURES, PER_DEVICE, RULE_FIGURES
from core.figures.session import SESSION_FIGURES
from core.formats.fhir_bundle import UCUM_UNITS, meaning_of
from core.grading.rule import rules

_CODES = """
    best_s mean_s share lags pitch_sd trail_off over_db over_aim off_note gaps gaps_each jumps
    at_length at_level at_both rise fall level_sd span low high ends evenness broke_at gap hiss_s
    buzz_s joined rate bubbling stops in_tune missing added low_clean high_clean broken_keys
    tempo_sd near over_target pitch voiced_s in_s out_s from_end within_beat done done_s spoken
    strain effort gasped strain_after
    phonation strong_s s z sz_ratio quotient probe_low probe_middle probe_top lowest highest
    habitual conversation fatigue discomfort rating handicap
"""
PUBLISHED = frozenset(_CODES.split())
"""Codes that stand in stored records, archives and files of former releases."""


def test_no_published_figure_is_lost_or_there_twice():
    kinds = (*SESSION_FIGURES, *BASELINE_FIGURES)
    assert set(FIGURES) == PUBLISHED
    assert len({kind.code for kind in kinds}) == len(kinds)


@pytest.mark.parametrize("kind", FIGURES.values(), ids=str)
def test_every_figure_is_named_defined_and_exportable(kind: FigureKind):
    assert kind.name[0].islower() or kind.name.startswith("s/z")
    assert kind.definition.endswith((".", ";"))
    assert kind.source
    assert kind.unit is Unit.NOTE or kind.unit in UCUM_UNITS
    display, definition = meaning_of(kind.code)
    assert display[0] != " "
    assert definition == kind.definition


def test_names_of_session_figures_are_not_taken_twice():
    names = [kind.name for kind in RULE_FIGURES.values()]
    assert len(names) == len(set(names))


def test_levels_compare_within_one_device_only():
    assert {"over_db", "over_aim"} == PER_DEVICE


@pytest.mark.parametrize(
    ("code", "unit", "decimals", "higher"),
    [
        ("best_s", "s", 1, "better"),
        ("pitch_sd", "semitones", 2, "worse"),
        ("trail_off", "dB", 1, "better"),
        ("over_db", "dB", 1, "neither"),
        ("span", "semitones", 1, "better"),
        ("sz_ratio", "ratio", 2, "worse"),
        ("quotient", "mL/s", 0, "neither"),
        ("strain", "/10", 0, "worse"),
        ("within_beat", "%", 0, "better"),
    ],
)
def test_what_a_reader_must_know_of_a_figure(code, unit, decimals, higher):
    kind = FIGURES[code]
    assert (kind.unit, kind.decimals, kind.higher_is) == (unit, decimals, higher)


def test_no_rule_advances_on_what_is_worse_nor_steps_back_on_what_is_better():
    looked = 0
    for rule in rules().steps:
        for part, upward in ((rule.climb, True), (rule.ease, False)):
            for bound in (*part.when, *part.besides) if part else ():
                asks_for_more = bound.least is not None or bound.over is not None
                asks_for_less = bound.most is not None or bound.under is not None
                higher = FIGURES[bound.figure].higher_is
                counts_what_meets = upward or part.under_share is not None
                good, bad = (Higher.BETTER, Higher.WORSE)
                if not counts_what_meets:
                    good, bad = bad, good
                assert not (asks_for_more and higher is bad), (rule.code, bound.figure)
                assert not (asks_for_less and higher is good), (rule.code, bound.figure)
                looked += 1
    assert looked > 30
