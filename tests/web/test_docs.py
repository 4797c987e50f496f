"""The tour runs as it is written; links of the docs lead somewhere."""

import doctest
import re
from pathlib import Path

import pytest

from tests.conftest import NOW

ROOT = Path(__file__).resolve().parents[2]
PAGES = [ROOT / "README.md", ROOT / "CONTRIBUTING.md", *sorted((ROOT / "docs").rglob("*.md"))]


@pytest.mark.django_db
def test_the_tour_of_an_attempt_a_program_and_a_decision(home, version, clinician):
    _session, ticket = home
    names = {
        "ticket": ticket,
        "clinician": clinician,
        "now": NOW,
        "power_step_id": version.content["routines"][0]["steps"][3]["step_id"],
    }
    tour = str(ROOT / "docs" / "tour.md")
    result = doctest.testfile(tour, module_relative=False, globs=names)
    assert result.attempted > 30
    assert result.failed == 0


def test_the_examples_of_prescribing():
    page = str(ROOT / "docs" / "prescribing.md")
    names = {"examples": ROOT / "docs" / "examples"}
    result = doctest.testfile(page, module_relative=False, globs=names)
    assert result.attempted > 10
    assert result.failed == 0


@pytest.mark.parametrize("page", PAGES, ids=lambda page: page.name)
def test_links_lead_somewhere(page):
    for target in re.findall(r"\]\(([^)#]+)\)", page.read_text(encoding="utf-8")):
        assert (page.parent / target).exists(), target
    assert len(list((ROOT / "docs" / "screenshots").glob("*.png"))) < 20
