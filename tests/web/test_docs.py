"""The tour runs as it is written; links of the docs lead somewhere."""

import doctest
import json
import re
import subprocess
import sys
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
    assert result.attempted > 40
    assert result.failed == 0


def test_the_examples_of_prescribing():
    page = str(ROOT / "docs" / "prescribing.md")
    names = {"examples": ROOT / "docs" / "examples"}
    result = doctest.testfile(page, module_relative=False, globs=names)
    assert result.attempted > 10
    assert result.failed == 0


@pytest.mark.django_db
def test_the_formats_are_read_as_their_page_says():
    page = str(ROOT / "docs" / "formats" / "README.md")
    result = doctest.testfile(page, module_relative=False)
    assert result.attempted > 25
    assert result.failed == 0


def test_the_published_schema_of_a_record_is_the_one_in_force():
    """./reed publish writes it."""
    from web.records.pack import record_schema

    published = (ROOT / "docs/formats/record.schema.json").read_text(encoding="utf-8")
    assert json.loads(published) == record_schema()


def test_the_reader_of_records_needs_nothing_but_python():
    script = ROOT / "docs" / "formats" / "read_record.py"
    assert len(script.read_text(encoding="utf-8").splitlines()) <= 40
    ran = subprocess.run(
        [sys.executable, "-I", "-S", str(script), str(script.with_name("record.zip"))],
        capture_output=True,
        text=True,
        check=True,
    )
    assert ran.stdout.startswith("Jonah Tresk, from Harrow Quay Voice Clinic\n")


@pytest.mark.parametrize("page", PAGES, ids=lambda page: page.name)
def test_links_lead_somewhere(page):
    for target in re.findall(r"\]\(([^)#]+)\)", page.read_text(encoding="utf-8")):
        assert (page.parent / target).exists(), target
    assert len(list((ROOT / "docs" / "screenshots").glob("*.png"))) < 20
