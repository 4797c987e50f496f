"""Reports: no more of the record than chosen, figures with their uncertainty and source, as PDF and as text."""

import io
from datetime import timedelta

import pypdf
import pytest
from django.urls import reverse

from tests.conftest import NOW, red_flag
from web.clinic.models import AccessEvent
from web.papers.models import Issued
from web.review.models import Addendum, Decision
from web.review.usecases.save_note import sign_note

pytestmark = pytest.mark.django_db


@pytest.fixture
def recorded(person, version, clinician):
    """The worked case with a decision, a signed note and what was added to it."""
    Decision.objects.create(
        clinic_id=person.clinic_id,
        client=person,
        act="climb",
        verdict="refused",
        reason="She had a cold.",
        evidence={
            "about": "Power notes",
            "reasons": [{"code": "x", "params": {}, "words": "5 of the last 5 meet the goal"}],
            "against": ["strain 3"],
        },
        day=NOW.date(),
        by=clinician,
        at=NOW,
    )
    note = sign_note(
        person,
        text="Steady today.\nTaught the hum.",
        revision=0,
        settled=(),
        entries=list,
        by=clinician,
        now=NOW,
    )
    Addendum.objects.create(
        clinic_id=person.clinic_id, client=person, note=note, text="She rang: all well.", by=clinician,
        at=NOW + timedelta(days=1),
    )  # fmt: skip
    return person


def address(person, sort="progress"):
    return reverse("papers:report", args=[person.pk, sort])


def pdf_words(answer):
    assert answer["Content-Type"] == "application/pdf", answer.content[:300]
    reader = pypdf.PdfReader(io.BytesIO(answer.content))
    return " ".join(" ".join(page.extract_text().split()) for page in reader.pages)


def text_of(answer):
    return answer.content.decode()


def test_figures_stand_with_their_spread_and_source(signed_in, recorded):
    """9.4, 8.8, 8.1 s: SD 0.65 s; 17.6 / 11.0 = 1.60."""
    said = {"parts": ["baseline"], "pdf": "1"}
    words = pdf_words(signed_in.post(address(recorded), said))
    for one in (
        "9.4\u00a0s",
        "± 0.7\u00a0s SD, 3 tries",
        "1.60",
        "Clinical Examination of Voice, Springer 1981",
        "J Speech Hear Disord 1981;46:147–149",
        "an estimate, 10–15 % below",
    ):
        assert one.replace("\u00a0", " ") in words.replace("\u00a0", " "), one


@pytest.mark.parametrize(
    ("part", "words"),
    [
        ("who", "born 1 March 1974"),
        ("examination", "Larynx examined 25 May 2026"),
        ("baseline", "Longest /s/"),
        ("program", "Program, version 1"),
        ("practice", "home sessions kept in the last 28 days"),
        ("results", "Nothing was practised in the last 12 weeks"),
        ("decisions", "5 of the last 5 meet the goal; She had a cold."),
        ("letter", "Against it spoke: strain 3."),
        ("note", "She rang: all well."),
    ],
)
def test_no_more_is_told_than_chosen(signed_in, recorded, part, words):
    with_it = text_of(signed_in.post(address(recorded), {"parts": [part, "program"]}))
    assert words in with_it
    others = {
        "who",
        "examination",
        "baseline",
        "practice",
        "results",
        "decisions",
        "letter",
        "note",
        "program",
    }
    others -= {part}
    others -= {"letter": {"decisions"}, "decisions": {"letter"}}.get(part, set())
    without = text_of(signed_in.post(address(recorded), {"parts": sorted(others)}))
    assert words not in without


@pytest.mark.parametrize("sort", ["progress", "discharge", "visit_note", "decision"])
def test_the_text_to_copy_and_the_pdf_tell_the_same(signed_in, recorded, sort):
    page = signed_in.get(address(recorded, sort))
    shown = page.context["made"]
    parts = page.context["form"].initial["parts"]
    words = pdf_words(signed_in.post(address(recorded, sort), {"parts": parts, "pdf": "1"}))
    words = words.replace("\u00a0", " ")
    for part in shown.parts:
        assert part.title in words
        for line in part.lines:
            assert " ".join(line.split()).replace("\u00a0", " ") in words
        for row in part.rows:
            assert row[0] in words
        assert part.title in shown.text


def test_a_letter_has_its_own_words_and_addressee(signed_in, recorded):
    said = {
        "parts": ["who", "letter"],
        "to": "Dr. Ruan Pell",
        "opening": "Thank you.\n<b>She</b> is well.",
        "pdf": "1",
    }
    words = pdf_words(signed_in.post(address(recorded, "decision"), said))
    assert "to Dr. Ruan Pell" in words
    assert "<b>She</b> is well." in words
    assert "Confidential" in words


def test_what_was_given_out_is_noted_with_its_parts(signed_in, recorded):
    signed_in.post(address(recorded), {"parts": ["who", "program"], "pdf": "1"})
    issued = Issued.objects.get(kind="report")
    assert issued.content == {"parts": ["who", "program"]}
    event = AccessEvent.objects.get(what="exported", where="papers:report")
    assert event.words == "who, program"


@pytest.mark.parametrize(
    "said",
    [{}, {"parts": ["nothing"]}, {"parts": ["who"]}, {"parts": ["who"], "opening": "x" * 5000}],
)
def test_a_report_of_nothing_is_refused_in_words(signed_in, recorded, said):
    answer = signed_in.post(address(recorded), said | {"pdf": "1"})
    assert answer.status_code == 422
    assert 'role="alert"' in text_of(answer)
    assert not Issued.objects.exists()


def test_a_client_with_nothing_yet(signed_in, person):
    """Screened, nothing else: the report says so and is no error."""
    answer = signed_in.get(address(person))
    assert answer.status_code == 200
    assert "Larynx examined" in text_of(answer)


def test_there_is_no_other_sort(signed_in, person):
    assert signed_in.get(address(person, "gossip")).status_code == 404


def test_no_way_into_the_record_leaves_with_it(signed_in, recorded, version):
    from tests.web.test_practice import session_on

    session_on(recorded, version, 12)
    answer = signed_in.post(address(recorded), {"parts": ["results", "program"], "pdf": "1"})
    pdf_words(answer)
    reader = pypdf.PdfReader(io.BytesIO(answer.content))
    links = [a.get_object() for page in reader.pages for a in page.get("/Annots", ())]
    assert links == []
    assert str(recorded.pk).encode() not in answer.content


def test_open_red_flags_are_told_to_the_referrer(signed_in, recorded, clinician):
    red_flag(recorded, clinician)
    words = pdf_words(signed_in.post(address(recorded), {"parts": ["examination"], "pdf": "1"}))
    assert "blood" in words.partition("Open red flags:")[2].lower()
