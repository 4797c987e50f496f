"""The page of one attempt, and its ends corrected by hand beside what was measured."""

import re
import uuid
from datetime import timedelta
from xml.etree import ElementTree

import numpy as np
import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from core.kinds.bubbles.figures import Bubbling
from core.kinds.level.figures import SpeechFigures
from core.kinds.live import measure_sound
from core.kinds.sz.figures import Joined
from core.notes.note import Note
from core.sound.reading import Sound
from lab.demo.save_session import WholeAttempt, save_session
from lab.simulate.voice import Voice, sing
from tests.conftest import NOW, record_of
from web.clinic.refusal import UsecaseRefused
from web.design.drawings.held_line import HeldLine, held_line
from web.measuring.measurement_page import in_short
from web.measuring.models import Measurement
from web.measuring.store import stored_figures
from web.measuring.usecases.save_measurement import save_measurement
from web.practice.models import Attempt, Correction
from web.practice.sessions.queries import practice_of
from web.practice.usecases.correct_attempt import correct_attempt
from web.programs.queries import versions_of

SVG = "{http://www.w3.org/2000/svg}"
VOICE = Voice(
    f0_hz=196.0, seconds=4.0, tremor_hz=5.0, tremor_cents=60.0, gaps=((2.6, 0.12),), seed=3
)


def test_the_distance_from_the_target_is_shown(signed_in, held):
    address = reverse("review:attempt", args=[held.client_id, held.pk])
    assert "From the target" in signed_in.get(address).content.decode()


SLIDE = {
    "low_hz": 98.0,
    "high_hz": 262.0,
    "span_semitones": 17.0,
    "direction": "up",
    "evenness_semitones": 0.3,
    "broke_at_hz": [],
}


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ({"task": "glide", "glide": SLIDE}, "G2–C4"),
        (
            {"task": "bubbles", "own": Bubbling(rate_hz=14.23, swing_db=6.0).as_data()},
            "14.2 bubbles a second",
        ),
        (
            {"task": "sz", "own": Joined(switch_s=2, gap_s=0.07, hiss_s=2, buzz_s=3).as_data()},
            "silence 0.07 s",
        ),
        (
            {"task": "sz", "own": Joined(switch_s=2, gap_s=0, hiss_s=2, buzz_s=3).as_data()},
            "no silence",
        ),
        (
            {
                "task": "level",
                "own": SpeechFigures(
                    phrases=(), voiced_s=6, mode_hz=None, over_reference_db=6.5
                ).as_data(),
            },
            "+6.5 dB against usual talk",
        ),
        (
            {"task": "level", "own": SpeechFigures(phrases=(), voiced_s=6, mode_hz=None).as_data()},
            "",
        ),
        ({"task": "hold", "f0_median_hz": 196.0}, ""),
    ],
)
def test_the_client_page_says_of_each_task_what_it_is_for(row, words):
    assert in_short(Measurement(verdict="good", **row), a4_hz=440.0) == words


def sung_figures(voice=VOICE, task="hold", target="G3"):
    sung = sing(voice)
    note = Note.named(target) if target else None
    return measure_sound(Sound(sung.samples, 16_000), task, target=note)


@pytest.fixture(scope="module")
def measured():
    return sung_figures()


@pytest.fixture
def held(person, version, access, measured):
    """An attempt at the first power note with its contour."""
    save_session(
        person,
        version,
        access=access,
        started_at=NOW,
        attempts=[
            WholeAttempt(
                step=version.program.steps[3], place=0, repetition=1, figures=measured, after_s=0
            )
        ],
        strain=2,
        input_name="microphone",
        measured_by="kernel",
    )
    return Attempt.objects.select_related("measurement__contour").get()


def page_of(attempt, name="attempt"):
    return reverse(f"review:{name}", args=[attempt.client_id, attempt.pk])


@pytest.mark.django_db
def test_the_page_shows_the_hold_and_what_was_found(signed_in, held, measured):
    answer = signed_in.get(page_of(held))
    text = answer.content.decode()
    assert answer.status_code == 200
    assert "Tremor 5.0 Hz" in text
    assert "1 gap(s) of 60 ms" in text
    drawing = ElementTree.fromstring(re.search(r"<svg.*held-line.*?</svg>", text, re.DOTALL)[0])
    ends = {g.get("data-end"): g for g in drawing.iter(f"{SVG}g") if g.get("data-end")}
    assert float(ends["onset"].get("aria-valuenow")) == pytest.approx(measured.onset_s, abs=0.01)
    assert float(ends["offset"].get("aria-valuenow")) == pytest.approx(measured.offset_s, abs=0.01)
    assert f"target {held.note}" in "".join(drawing.itertext())


@pytest.mark.django_db
def test_the_page_takes_few_queries_and_is_written_to_the_access_log(signed_in, held):
    from web.clinic.models import AccessEvent

    before = AccessEvent.objects.count()
    with CaptureQueriesContext(connection) as seen:
        assert signed_in.get(page_of(held)).status_code == 200
    assert len(seen) <= 12
    assert AccessEvent.objects.count() == before + 1


@pytest.mark.django_db
def test_a_correction_stands_beside_the_measured_value(signed_in, held, clinician):
    before = held.measurement.hold_s
    posted = {"onset_s": "0.60", "offset_s": "3.10", "reason": "A door after 2.5 s"}
    assert signed_in.post(page_of(held, "correct"), posted).status_code == 302
    correction = Correction.objects.get()
    assert correction.hold_s == pytest.approx(2.5)
    assert (correction.by, correction.reason) == (clinician, "A door after 2.5 s")
    assert Measurement.objects.get().hold_s == before
    assert Attempt.objects.get().seconds == pytest.approx(before, abs=0.01)
    text = signed_in.get(page_of(held)).content.decode()
    assert "A door after 2.5 s" in text
    assert "Corrected" in text
    assert 'class="measured"' in text


@pytest.mark.django_db
def test_the_corrected_seconds_are_what_the_rules_and_pages_see(signed_in, held, clinician):
    correct_attempt(held, onset_s=0.6, offset_s=2.1, reason="A cough", by=clinician, now=NOW)
    (attempt,) = practice_of(held.client_id, NOW.date(), versions_of(held.client)).attempts
    assert attempt.seconds == pytest.approx(1.5)
    text = signed_in.get(reverse("review:client", args=[held.client_id])).content.decode()
    assert "1.5 s" in text
    assert "corrected" in text
    later = NOW + timedelta(minutes=1)
    correct_attempt(held, onset_s=0.6, offset_s=2.6, reason="Heard again", by=clinician, now=later)
    (attempt,) = practice_of(held.client_id, NOW.date(), versions_of(held.client)).attempts
    assert attempt.seconds == pytest.approx(2.0)
    assert Correction.objects.count() == 2


@pytest.mark.django_db
def test_the_same_correction_twice_is_one(held, clinician):
    one, two = (
        correct_attempt(held, onset_s=0.6, offset_s=2.1, reason=" A  cough ", by=clinician, now=NOW)
        for _ in range(2)
    )
    assert one == two
    assert Correction.objects.count() == 1


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("onset", "offset", "reason"),
    [
        ("3.0", "2.0", "upside down"),
        ("1.0", "1.0", "nothing left"),
        ("-0.1", "2.0", "before the sound"),
        ("0.5", "99", "after the sound"),
        ("nan", "2.0", "no number"),
        ("", "2.0", "empty"),
        ("x", "2.0", "letters"),
        ("0.5", "2.0", "   "),
        ("0.5", "2.0", "w" * 301),
    ],
)
def test_what_is_no_correction_is_refused_and_keeps_what_was_typed(
    signed_in, held, onset, offset, reason
):
    posted = {"onset_s": onset, "offset_s": offset, "reason": reason}
    answer = signed_in.post(page_of(held, "correct"), posted)
    assert answer.status_code == 422
    assert not Correction.objects.exists()
    text = answer.content.decode()
    assert 'role="alert"' in text
    assert f'value="{offset}"' in text


@pytest.mark.django_db
def test_a_stopwatch_attempt_has_no_ends_to_move(signed_in, held, clinician):
    timed = Attempt.objects.get()
    timed.pk, timed.measurement, timed.taken, timed.state = uuid.uuid4(), None, "stopwatch", "timed"
    timed.save(force_insert=True)
    text = signed_in.get(page_of(timed)).content.decode()
    assert "Timed by the stopwatch" in text
    assert "Keep correction" not in text
    with pytest.raises(UsecaseRefused):
        correct_attempt(timed, onset_s=0.1, offset_s=2.0, reason="no", by=clinician, now=NOW)


@pytest.mark.django_db
def test_another_clients_attempt_is_not_there(signed_in, held, clinic, clinician):
    from tests.conftest import enrol

    other = enrol(clinic, clinician, name="Osric Fendt")
    assert signed_in.get(reverse("review:attempt", args=[other.pk, held.pk])).status_code == 404


@pytest.mark.django_db
def test_times_are_the_clients_own(held, clinician, person, signed_in):
    # 10:00 UTC is 11:00 in Dublin in June, 7:30 in St. John's
    address = reverse("review:attempt", args=[person.pk, held.pk])
    assert "Sunday 14 June, 11:00" in signed_in.get(address).content.decode()
    person.time_zone = "America/St_Johns"
    person.save()
    correct_attempt(held, onset_s=0.6, offset_s=2.1, reason="A cough", by=clinician, now=NOW)
    page = signed_in.get(address).content.decode()
    assert "Sunday 14 June, 7:30" in page
    assert "14 Jun 2026 7:30" in page


@pytest.mark.django_db
def test_corrections_leave_with_the_record(held, clinician, person):
    correct_attempt(held, onset_s=0.6, offset_s=2.1, reason="A cough", by=clinician, now=NOW)
    (row,) = record_of(person)["corrections"]
    assert (row["onset_s"], row["offset_s"], row["reason"]) == (0.6, 2.1, "A cough")


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("voice", "task", "target"),
    [
        (VOICE, "hold", "G3"),
        (Voice(f0_hz=180.0, glide_to_hz=380.0, seconds=3.0), "glide", None),
        (Voice(f0_hz=200.0, seconds=2.0, hiss=True), "hiss", None),
    ],
)
def test_what_is_stored_comes_back_as_the_same_figures(person, voice, task, target):
    found = sung_figures(voice, task, target)
    row = save_measurement(
        found,
        clinic_id=person.clinic_id,
        client_id=person.pk,
        taken="live",
        input_name="microphone",
        device={},
        now=NOW,
    )
    back = stored_figures(Measurement.objects.select_related("contour").get(pk=row.pk))
    first, second = found.as_data(contour=False), back.as_data(contour=False)
    first.pop("target"), second.pop("target")
    assert second == first
    assert np.array_equal(np.isnan(back.contour.f0_hz), np.isnan(found.contour.f0_hz))
    np.testing.assert_allclose(back.contour.level_db, found.contour.level_db, atol=0.006)


def line(**changes):
    f0_hz = np.full(300, np.nan)
    f0_hz[60:260] = 220.0
    still = {
        "f0_hz": f0_hz,
        "level_db": np.where(np.isnan(f0_hz), -70.0, -25.0),
        "hop_s": 0.01,
        "label": "held",
        "words": dict.fromkeys(("target", "level", "gap", "jump", "begin", "end"), "word"),
        "ends_s": (0.6, 2.6),
    }
    return ElementTree.fromstring(str(held_line(HeldLine(**still | changes))))


def test_the_ribbon_lies_on_the_target_when_the_note_is_met():
    drawing = line(target=Note.named("A3"))
    ribbon = next(p for p in drawing.iter(f"{SVG}polygon"))
    heights = [float(point.split(",")[1]) for point in ribbon.get("points").split()]
    target = next(e for e in drawing.iter(f"{SVG}line") if e.get("stroke-width") == "1.5")
    assert np.mean(heights) == pytest.approx(float(target.get("y1")), abs=0.5)


def test_an_empty_contour_is_still_a_drawing():
    drawing = line(f0_hz=np.full(40, np.nan), level_db=np.full(40, -120.0), ends_s=None)
    assert not list(drawing.iter(f"{SVG}polygon"))


def test_moved_ends_are_drawn_beside_the_measured_ones():
    drawing = line(moved_s=(0.8, 2.0), editable=True)
    measured_lines = [e for e in drawing.iter(f"{SVG}line") if e.get("class") == "measured"]
    assert len(measured_lines) == 2
    values = [g.get("aria-valuenow") for g in drawing.iter(f"{SVG}g") if g.get("data-end")]
    assert values == ["0.8", "2"]


def test_two_minutes_stay_a_small_drawing():
    count = 12_000
    whole = held_line(
        HeldLine(
            f0_hz=np.full(count, 200.0), level_db=np.full(count, -20.0), hop_s=0.01, label="long",
            words=dict.fromkeys(("target", "level", "gap", "jump", "begin", "end"), "w"),
        )
    )  # fmt: skip
    assert len(whole) < 120_000
