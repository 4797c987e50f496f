"""The visit: every task measured, opened, taken over; the level reference of a device."""

import re
import uuid

import numpy as np
import pytest
from django.urls import reverse

from core.kinds.registry import read_task_figures
from core.notes.note import Note
from lab.kinds.breath import breathing
from lab.kinds.bubbles import bubbling
from lab.kinds.sz import joining
from lab.simulate.tasks import sing_pattern, speak
from lab.simulate.voice import Voice, sing
from tests.conftest import NOW, enrol
from tests.factories.visit import DESK, kept
from web.clients.baseline.measured import MeasuredView, level_reference
from web.clients.baseline.measures import ASKED, Aims
from web.clients.baseline.view import BaselineView
from web.clients.models import Measure
from web.clients.usecases import baseline as measuring
from web.clients.usecases.device import save_reference
from web.clinic.refusal import UsecaseRefused
from web.measuring.models import DeviceReference, Measurement

SINGER = Voice(f0_hz=262.0, seconds=1.0, jitter_percent=0.2)


@pytest.fixture
def baseline(person, clinician):
    return measuring.open_baseline(person, by=clinician, now=NOW)


def pattern_sound(baseline):
    notes = Aims(baseline).of(Measure.PATTERN).notes
    return sing_pattern(SINGER, notes, breaths_after=(4,)).samples


SOUNDS = {
    Measure.BUBBLES: (lambda b: bubbling(3).samples, "bubbles", "bubbles a second"),
    Measure.S: (
        lambda b: sing(Voice(f0_hz=200.0, seconds=5.0, hiss=True)).samples,
        "swell",
        "Even: level SD",
    ),
    Measure.JOIN: (lambda b: joining(1).samples, "sz", "at the join"),
    Measure.PATTERN: (pattern_sound, "pattern", "All 9 notes within 50 cents"),
    Measure.CONVERSATION: (lambda b: speak(fade_db=-8.0).samples, "speech", "Phrases trail off"),
    Measure.BREATH: (lambda b: breathing(2).samples, "breaths", "pace"),
}


@pytest.mark.parametrize("measure", list(SOUNDS))
def test_an_attempt_of_each_kind_is_kept_and_opens_to_its_findings(
    baseline, clinician, person, signed_in, measure
):
    make, key, finding = SOUNDS[measure]
    row, answer = kept(baseline, clinician, measure, make(baseline))
    assert row.seconds > 0
    assert key in row.measurement.own
    assert key in answer.json()["figures"]
    page = signed_in.get(reverse("clients:attempt", args=[person.pk, row.pk]))
    shown = page.content.decode()
    assert page.status_code == 200
    assert finding in shown
    assert 'class="drawing' in shown
    if measure == Measure.BUBBLES:
        assert shown.count('class="ring"') > 20
    if measure == Measure.PATTERN:
        assert shown.count('class="wanted"') == 9


def test_figures_of_every_kind_come_back_from_the_database_as_they_were(baseline, clinician):
    for measure, (make, _key, _finding) in SOUNDS.items():
        row, _ = kept(baseline, clinician, measure, make(baseline))
        stored = Measurement.objects.get(pk=row.measurement_id).own
        assert read_task_figures(stored).as_data() == stored


def test_the_simulated_voice_does_every_measure_that_the_page_offers(
    baseline, person, signed_in, settings
):
    settings.OFFER_SIMULATED_VOICE = True
    page = signed_in.get(reverse("clients:baseline", args=[person.pk])).content.decode()
    tasks = set(re.findall(r'data-task="([^"]*)"', page))
    assert tasks >= {"hold", "glide", "hiss", "level", "bubbles", "sz", "pattern", "breath"}
    for task in tasks:
        given = {"task": task, "hz": 196, "seconds": 4.0, "seed": 1, "aim": ""}
        assert signed_in.get(reverse("simulated_voice"), given).status_code == 200, task


def test_silence_is_kept_without_figures(baseline, clinician, person, signed_in):
    quiet = np.random.default_rng(0).normal(size=48_000) * 1e-4
    for measure in SOUNDS:
        row, answer = kept(baseline, clinician, measure, quiet)
        assert row.seconds is None
        assert row.measurement.own is None
        assert answer.json()["words"]
        page = signed_in.get(reverse("clients:attempt", args=[person.pk, row.pk]))
        assert page.status_code == 200


def test_gain_control_leaves_speech_without_levels(baseline, clinician):
    device = {**DESK, "autoGainControl": True}
    row, _ = kept(baseline, clinician, Measure.CONVERSATION, speak().samples, device=device)
    own = row.measurement.own["speech"]
    assert row.measurement.level_mean_db is None
    assert own["phrases"] == []
    assert own["mode_hz"] is not None
    assert own["over_reference_db"] is None


def test_reading_is_compared_with_the_conversation_and_its_words_are_counted(baseline, clinician):
    kept(baseline, clinician, Measure.CONVERSATION, speak(level_db=-32.0, seed=1).samples)
    read = speak(level_db=-28.0, seed=1, phrases=8, phrase_s=3.0).samples
    row, answer = kept(baseline, clinician, Measure.READING, read)
    speech = row.measurement.own["speech"]
    assert speech["over_reference_db"] == pytest.approx(4.0, abs=0.8)
    assert 80 < speech["words_a_minute"] < 200
    assert answer.json()["figures"]["target"].endswith("words")


def test_a_reading_on_another_device_is_not_compared(baseline, clinician):
    kept(baseline, clinician, Measure.CONVERSATION, speak(level_db=-32.0, seed=1).samples)
    phone = {**DESK, "label": "phone"}
    read = speak(level_db=-28.0, seed=1, phrases=8, phrase_s=3.0).samples
    other, _ = kept(baseline, clinician, Measure.READING, read, device=phone)
    same, _ = kept(baseline, clinician, Measure.READING, read)
    assert other.measurement.own["speech"]["over_reference_db"] is None
    assert same.measurement.own["speech"]["over_reference_db"] == pytest.approx(4.0, abs=0.8)


def test_measured_notes_are_taken_over_when_the_clinician_says_so(
    baseline, clinician, person, signed_in, clinic
):
    glide = sing(Voice(f0_hz=180.0, seconds=5.0, glide_to_hz=520.0, wobble_semitones=0.0))
    kept(baseline, clinician, Measure.GLIDE_UP, glide.samples)
    kept(baseline, clinician, Measure.CONVERSATION, speak(seed=2).samples)
    view = MeasuredView(BaselineView.of(baseline, 52), clinic.a4_hz)
    low, high = view.glided
    assert Note.named("F3") <= low <= Note.named("G3")
    assert Note.named("B4") <= high <= Note.named("C5")
    page = signed_in.get(reverse("clients:baseline", args=[person.pk])).content.decode()
    assert f"{low}–{high}" in page
    signed_in.post(reverse("clients:take_over", args=[person.pk]))
    baseline.refresh_from_db()
    assert (baseline.lowest, baseline.highest) == (low.name, high.name)
    assert baseline.speaking == view.habitual.note.name


def test_a_measured_pitch_outside_the_range_is_said_and_nothing_is_saved(
    baseline, clinician, person, signed_in
):
    glide = sing(Voice(f0_hz=260.0, seconds=5.0, glide_to_hz=520.0, wobble_semitones=0.0))
    kept(baseline, clinician, Measure.GLIDE_UP, glide.samples)
    kept(baseline, clinician, Measure.CONVERSATION, speak(seed=6, size="man").samples)
    answer = signed_in.post(reverse("clients:take_over", args=[person.pk]), follow=True)
    assert "lies outside" in answer.content.decode()
    baseline.refresh_from_db()
    assert baseline.lowest == ""


def test_nothing_measured_is_nothing_to_take_over(baseline, person, signed_in):
    answer = signed_in.post(reverse("clients:take_over", args=[person.pk]), follow=True)
    assert "Nothing is measured yet" in answer.content.decode()


def test_measures_with_more_than_seconds_cannot_be_typed(baseline):
    with pytest.raises(UsecaseRefused, match="more figures than seconds"):
        measuring.type_attempt(
            baseline, attempt_id=uuid.uuid4(), measure="bubbles", seconds=4.0, now=NOW
        )


def test_every_measure_of_the_visit_has_its_words_and_stands_on_the_page(
    baseline, person, signed_in
):
    page = signed_in.get(reverse("clients:baseline", args=[person.pk])).content.decode()
    assert set(ASKED) == set(Measure.values)
    for measure in Measure:
        assert f'data-measure="{measure.value}"' in page
    assert "Harrow Quay at ten past six" in page


@pytest.fixture
def reference(baseline, clinician):
    sung = sing(Voice(f0_hz=200.0, seconds=4.0, level_db=-30.0, noise_db=-60.0, lead_s=2.0))
    return kept(baseline, clinician, Measure.REFERENCE, sung.samples)[0]


def test_a_reading_of_the_meter_is_kept_for_the_device(
    reference, baseline, clinician, person, signed_in
):
    address = reverse("clients:device", args=[person.pk])
    before = signed_in.get(address).content.decode()
    assert "desk microphone" in before
    assert "quiet enough" in before
    values = {"distance_cm": "30", "meter_db": "66", "meter_distance_cm": "30"}
    assert signed_in.post(address, values).status_code == 302
    kept_now = level_reference(person.pk, "desk microphone")
    assert kept_now.at_30_cm_db(reference.measurement.level_mean_db) == pytest.approx(66.0)
    signed_in.post(address, values)
    assert DeviceReference.objects.count() == 1
    kept(baseline, clinician, Measure.CONVERSATION, speak(level_db=-30.0).samples)
    page = signed_in.get(reverse("clients:baseline", args=[person.pk])).content.decode()
    assert "at 30 cm" in page


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({"distance_cm": "150"}, "less than or equal to 100"),
        ({"distance_cm": ""}, "required"),
        ({"meter_db": "400"}, "less than or equal to 120"),
        ({"meter_db": "loud"}, "Enter a number"),
    ],
)
def test_odd_distances_and_readings_are_said_at_the_field(
    reference, person, signed_in, values, words
):
    good = {"distance_cm": "30", "meter_db": "66", "meter_distance_cm": "30"}
    answer = signed_in.post(reverse("clients:device", args=[person.pk]), good | values)
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert not DeviceReference.objects.exists()


def test_without_a_measured_level_there_is_no_reference(baseline, clinician, person, signed_in):
    answer = signed_in.post(
        reverse("clients:device", args=[person.pk]),
        {"distance_cm": "30", "meter_distance_cm": "30"},
    )
    assert answer.status_code == 422
    assert "Measure the level reference" in answer.content.decode()
    sung = sing(Voice(f0_hz=200.0, seconds=4.0, lead_s=2.0))
    device = {**DESK, "autoGainControl": True}
    row, _ = kept(baseline, clinician, Measure.REFERENCE, sung.samples, device=device)
    with pytest.raises(UsecaseRefused, match="changes its gain"):
        save_reference(
            row, distance_cm=30, meter_db=None, meter_distance_cm=30, by=clinician, now=NOW
        )


def test_a_noisy_room_is_said(baseline, clinician, person, signed_in):
    sung = sing(Voice(f0_hz=200.0, seconds=4.0, level_db=-30.0, noise_db=-37.0, lead_s=2.0))
    kept(baseline, clinician, Measure.REFERENCE, sung.samples)
    page = signed_in.get(reverse("clients:device", args=[person.pk])).content.decode()
    assert "10 are needed" in page


def test_a_device_without_a_reference_is_named_on_the_baseline(
    reference, clinician, person, signed_in
):
    address = reverse("clients:baseline", args=[person.pk])
    words = "“desk microphone” has no level reference"
    assert words in signed_in.get(address).content.decode()
    save_reference(
        reference, distance_cm=30, meter_db=None, meter_distance_cm=30, by=clinician, now=NOW
    )
    assert words not in signed_in.get(address).content.decode()


def test_another_device_asks_for_its_own_reference(reference, baseline, clinician, person):
    save_reference(
        reference, distance_cm=30, meter_db=66.0, meter_distance_cm=30, by=clinician, now=NOW
    )
    assert level_reference(person.pk, "desk microphone").calibrated
    assert level_reference(person.pk, "phone") is None
    other = enrol(person.clinic, clinician, name="Osric Fendt")
    assert level_reference(other.pk, "desk microphone") is None


def test_the_simulated_meter_reads_the_simulated_voice(signed_in, settings):
    address = reverse("simulated_meter")
    assert signed_in.get(address, {"dbfs": -30}).json()["db"] == pytest.approx(66.0, abs=1.5)
    for odd in ({}, {"dbfs": "x"}, {"dbfs": 5}, {"dbfs": -30, "distance_cm": 400}):
        assert signed_in.get(address, odd).status_code == 400
    settings.OFFER_SIMULATED_VOICE = False
    assert signed_in.get(address, {"dbfs": -30}).status_code == 404


@pytest.mark.parametrize("task", ["bubbles", "sz", "pattern", "level", "breath", "hiss", "glide"])
def test_the_simulated_voice_does_every_task(client, task):
    answer = client.get(reverse("simulated_voice"), {"task": task, "seconds": 3, "seed": 1})
    assert answer.content[:4] == b"RIFF"
    assert client.get(reverse("simulated_voice"), {"task": "juggling"}).status_code == 400
