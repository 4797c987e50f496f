"""Handout and practice sheet as PDF, read back by a second library."""

import io
import uuid
from datetime import timedelta
from urllib.parse import parse_qs, urlparse

import pypdf
import pypdfium2
import pytest
import zxingcpp
from django.urls import reverse

from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program, enrol, red_flag
from tests.factories.handout import words_of
from web.clients.models import ClientAccess
from web.clients.usecases.for_home import save_note
from web.papers.models import Issued
from web.papers.print.pdf import laid_out, pdf_of
from web.papers.print.steps import how_often
from web.practice.player.step_words import cue_words
from web.programs.models import ProgramVersion


def codes_of(answer):
    page = pypdfium2.PdfDocument(answer.content)[0]
    return [code.text for code in zxingcpp.read_barcodes(page.render(scale=3).to_pil())]


@pytest.fixture
def printed(signed_in, person, version):
    def print_it(name="handout", **said):
        return signed_in.post(reverse(f"papers:{name}", args=[person.pk]), said)

    return print_it


def test_the_handout_says_what_how_often_and_when_to_stop(printed, person, access):
    words, reader = words_of(printed())
    assert len(reader.pages) <= 3
    for said in (
        "Maren Tidewell",
        "Held notes",
        "2 times a day, every day, for 6 weeks",
        "hold for 6.5 seconds, 5 notes, 2×",
        "1 = B♭3, 2 = C4, 3 = D4, 4 = E♭4, 5 = F4",
        "Stop at once if you feel pain",
        "000 555 0100",
        "emergency number 112",
        "supports, and does not replace, care by a licensed clinician",
        "edition 1, 15 June 2026",
    ):
        assert said in words, said
    assert reader.trailer["/Root"]["/MarkInfo"]["/Marked"]  # readable aloud


def test_the_code_leads_to_the_practice_page_and_no_pin_is_printed(printed, access):
    answer = printed()
    (code,) = codes_of(answer)
    assert urlparse(code).path == reverse("practice:enter", args=[access.pk])
    assert PIN not in words_of(answer)[0]


def test_without_a_link_no_code_is_printed(printed):
    assert codes_of(printed()) == []


def test_a_revoked_link_is_not_printed(printed, access):
    ClientAccess.objects.filter(pk=access.pk).update(revoked_at=access.made_at)
    assert codes_of(printed()) == []


def test_large_type_is_large_and_the_same_edition(printed):
    _words, large = words_of(printed(large="1"))
    _words, ordinary = words_of(printed())
    assert len(ordinary.pages) < len(large.pages) <= 3
    assert Issued.objects.filter(kind="handout").count() == 1


def test_it_is_issued_again_only_when_what_it_prints_changed(printed, person, clinician, signed_in):
    page = reverse("papers:papers", args=[person.pk])
    printed()
    printed()
    assert [one.edition for one in Issued.objects.filter(kind="handout")] == [1]
    assert "still matches the program" in signed_in.get(page).content.decode()
    save_note(person, "Sit up well.", by=clinician, now=NOW)
    assert "no longer matches the program" in signed_in.get(page).content.decode()
    words, _reader = words_of(printed())
    assert "Sit up well." in words
    assert "edition 2" in words
    save_note(person, "", by=clinician, now=NOW + timedelta(minutes=1))
    words_of(printed())
    issued = Issued.objects.filter(kind="handout").order_by("at")
    assert [one.edition for one in issued] == [1, 2, 3]


def test_a_program_on_hold_is_not_printed(printed, person, clinician):
    red_flag(person, clinician)
    for answer in (printed(), printed("sheet", first="2026-06-15")):
        assert answer.status_code == 409
        assert b"on hold" in answer.content
    assert not Issued.objects.exists()


def test_what_must_not_be_asked_for_is_not_printed(printed, person, clinician, home):
    """After choking no line asks for a sip, on paper either."""
    assert "Drink water" in words_of(printed())[0]
    from web.practice.usecases.save_entry import SentEntry, save_entry

    _session, ticket = home
    sign = SentEntry(
        entry_id="5c0de000-7a1c-4000-8000-00000000aaaa", kind="stop", step_id=None, value="choking"
    )
    save_entry(ticket, sign, now=NOW)
    assert "Drink water" not in words_of(printed())[0]


def test_before_the_first_program_nothing_is_printed(signed_in, clinic, clinician):
    other = enrol(clinic, clinician, name="Corin Vell")
    for name, said in (("handout", {}), ("sheet", {"first": "2026-06-15"})):
        answer = signed_in.post(reverse(f"papers:{name}", args=[other.pk]), said)
        assert answer.status_code == 409
        assert b"no program yet" in answer.content


def test_words_somebody_typed_open_no_file(printed, person, clinician):
    save_note(
        person,
        '<img src="file:///etc/passwd"><a href="http://far.example">x</a>',
        by=clinician,
        now=NOW,
    )
    words, _reader = words_of(printed())
    assert "<img src=" in words
    assert "root:" not in words


def test_no_address_is_opened_but_a_font_of_the_product(tmp_path):
    secret = tmp_path / "secret.svg"
    secret.write_text('<svg xmlns="http://www.w3.org/2000/svg"><text y="20">hidden</text></svg>')
    made = pdf_of(laid_out(f'<p>seen</p><img src="file://{secret}">'))
    words = pypdf.PdfReader(io.BytesIO(made)).pages[0].extract_text()
    assert "seen" in words
    assert "hidden" not in words


def test_a_clients_own_language_is_printed(printed, person, strange):
    type(person).objects.filter(pk=person.pk).update(language=strange)
    words, _reader = words_of(printed())
    assert "Your home practice" not in words


def test_the_sheet_mirrors_the_program_and_its_code_opens_its_log(
    printed, person, signed_in, version
):
    answer = printed("sheet", first="2026-06-15")
    words, reader = words_of(answer)
    assert len(reader.pages) == 2  # two home sessions a day: a week a page
    for said in (
        "Held notes",
        "1 · B♭3 · 6.5 s",
        "5 · F4 · 6.5 s",
        "Throat strain",
        "Stop at once",
        "edition 1",
    ):
        assert said in words, said
    assert "Mon 15.6." in words
    assert "Sun 28.6." in words
    (code,) = codes_of(answer)
    address = urlparse(code)
    assert address.path == reverse("papers:sheet_log", args=[person.pk])
    assert parse_qs(address.query)["first"] == ["2026-06-15"]
    log = signed_in.get(f"{address.path}?{address.query}").content.decode()
    assert "15 Jun to 28 Jun 2026" in log


@pytest.mark.parametrize("large", ["", "1"])
@pytest.mark.parametrize(
    ("schools", "equipment"),
    [
        (["semi_shallow", "sustained"], ["thin_straw", "glass_of_water"]),
        (["loudness_vowels"], []),
    ],
)
def test_a_sheet_is_whole_on_its_page_and_its_boxes_are_large_enough_to_write_in(
    signed_in, clinic, clinician, schools, equipment, large
):
    person = enrol(clinic, clinician, equipment=equipment)
    activate_program(person, clinician, schools=tuple(Chosen(school=one) for one in schools))
    address = reverse("papers:sheet", args=[person.pk])
    answer = signed_in.post(address, {"first": "2026-06-15", "large": large})
    _words, reader = words_of(answer)
    for page in reader.pages:
        on_it = " ".join(page.extract_text().split())
        assert "After a stop sign, skip that exercise" in on_it
        assert "Stop sign? write which" in on_it
    boxes = boxes_of(answer)
    assert len(boxes) > 28
    # two digits and a decimal by hand, at 2 mm a letter
    assert min(side_mm for box in boxes for side_mm in box) >= 6.9


def boxes_of(answer):
    """What is framed or filled on the first page, width and height in mm; rules alone left out."""
    page = pypdfium2.PdfDocument(answer.content)[0]
    paths = [one for one in page.get_objects() if one.type == pypdfium2.raw.FPDF_PAGEOBJ_PATH]
    bounds = [one.get_bounds() for one in paths]
    sides = [((r - left) / 72 * 25.4, (top - low) / 72 * 25.4) for left, low, r, top in bounds]
    return [one for one in sides if min(one) > 1.5]


def test_the_log_opens_at_the_sheet_that_was_printed_last(printed, person, signed_in, version):
    printed("sheet", first="2026-06-01")
    log = signed_in.get(reverse("papers:sheet_log", args=[person.pk])).content.decode()
    assert "1 Jun to 14 Jun 2026" in log


@pytest.mark.parametrize("first", ["", "someday", "1970-01-01"])
def test_a_sheet_of_no_day_is_refused_in_words(printed, first):
    answer = printed("sheet", first=first)
    assert answer.status_code == 422
    assert b'role="alert"' in answer.content


def test_how_often_in_words(version):
    dose = version.program.routines[0].dose
    from dataclasses import replace

    assert how_often(
        replace(dose, sessions_a_day=1, days_a_week=3, weekdays=(1, 3, 5), weeks=1)
    ) == ("once a day, Mon, Wed, Fri, for 1 week")


def test_every_school_fits_on_three_pages(signed_in, clinic, clinician):
    """The longest programs: several schools together."""
    person = enrol(clinic, clinician, name="Silas Merrow", equipment=["thin_straw"])
    chosen = [
        Chosen(school=key) for key in ("semi_shallow", "release", "articulation", "breath_counts")
    ]
    activate_program(person, clinician, schools=tuple(chosen))
    for said in ({}, {"large": "1"}):
        answer = signed_in.post(reverse("papers:handout", args=[person.pk]), said)
        assert len(words_of(answer)[1].pages) <= 3


def rest_of(home, step, sign="pain"):
    from web.practice.usecases.save_entry import SentEntry, save_entry

    _session, ticket = home
    said = SentEntry(entry_id=str(uuid.uuid4()), kind="stop", step_id=step.step_id, value=sign)
    save_entry(ticket, said, now=NOW)


def test_a_step_that_rests_is_on_no_paper(printed, version, home, person, signed_in):
    """Pain with the power notes: neither handout nor sheet asks for them; both still ask for the glides."""
    power = version.program.routine("ladder").steps[3]
    rest_of(home, power)
    words, _reader = words_of(printed())
    assert "Stretch glide" in words
    assert "These rest until your clinic has spoken with you: Power notes" in words
    assert "5 notes, 2×" not in words
    sheet, _reader = words_of(printed("sheet", first="2026-06-15"))
    assert "Stretch glide" in sheet
    assert "Power notes" not in sheet


def test_where_everything_rests_no_sheet_is_printed(printed, version, home):
    rest_of(home, version.program.routine("ladder").steps[3], sign="voice_worse")
    answer = printed("sheet", first="2026-06-15")
    assert answer.status_code == 409
    assert b"rests after a stop sign" in answer.content


def printed_for(signed_in, clinic, clinician, *schools, **screening):
    person = enrol(clinic, clinician, name="Petra Lindqvist", **screening)
    activate_program(person, clinician, schools=tuple(Chosen(school=key) for key in schools))
    return person, signed_in.post(reverse("papers:handout", args=[person.pk]))


def test_how_deep_a_tube_goes_is_told_on_paper_and_in_practice(signed_in, clinic, clinician):
    """At home at most 5 cm for folds that do not close: the step says its own depth, in cm."""
    person, answer = printed_for(
        signed_in, clinic, clinician, "semi_deep", equipment=["wide_tube", "glass_of_water"]
    )
    version = ProgramVersion.objects.get(client=person)
    (step,) = [one for one in version.program.steps if one.tube and one.tube.depth_cm]
    said = f"The end of the tube {step.tube.depth_cm:g} cm under the water, no deeper."
    assert 0 < step.tube.depth_cm <= 5
    assert said in words_of(answer)[0]
    assert said in cue_words(step)


def test_how_strong_is_told_on_paper(signed_in, clinic, clinician):
    _person, answer = printed_for(signed_in, clinic, clinician, "loudness_vowels")
    assert "Effort 7 to 9 of 10." in words_of(answer)[0]
