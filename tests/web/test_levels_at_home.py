"""Levels at home: usual talk before strong work, soft and strong kept apart, what rests after a stop."""

import contextlib
import re
import uuid
from datetime import timedelta

import numpy as np
import pytest
from django.urls import reverse

from core.program.program import Chosen
from lab.demo.save_session import WholeAttempt, save_session
from lab.simulate.tasks import speak
from lab.simulate.voice import Voice, sing
from tests.conftest import NOW, PIN, activate_program
from tests.factories.practice import held, session_on
from tests.factories.uploads import put_json, put_sound
from web.clients.usecases.link import make_link
from web.clinic.refusal import UsecaseRefused
from web.measuring.sinks import Permit
from web.measuring.words import attempt_words
from web.practice.models import USUAL_TALK, Attempt, HomeSession, LevelReset
from web.practice.player.bundle import bundle_of
from web.practice.sessions.levels import conversations, level_references
from web.practice.usecases.clear_stop import clear_stop_signs
from web.practice.usecases.open_session import open_session
from web.practice.usecases.reset_level import reset_level
from web.practice.usecases.save_entry import read_entry, save_entry

pytestmark = pytest.mark.django_db
TABLET = {"label": "tablet", "sampleRate": 16_000}


@pytest.fixture
def loud(person, clinician):
    schools = (
        Chosen(school="loudness_vowels", options={"aim": "effort"}),
        Chosen(school="sustained"),
    )
    return activate_program(person, clinician, schools=schools)


@pytest.fixture
def sitting(person, clinician, loud):
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    given = {"session_id": uuid.uuid4(), "now": NOW, "routine": "loudness"}
    session, ticket = open_session(access, **given)
    return loud, session, ticket


def step_of(version, task):
    return next(step for step in version.program.steps if step.task == task)


def said(step_id, **changes):
    base = {"place": 0, "repetition": 1, "elapsed_ms": 1000, "device": TABLET}
    return base | {"step_id": str(step_id)} | changes


def talk(level_db=-34.0):
    return speak(level_db=level_db, phrases=4, phrase_s=2.0, seed=5).samples


def wav(samples):
    import io

    import soundfile

    out = io.BytesIO()
    soundfile.write(out, samples.astype(np.float32), 16_000, format="WAV", subtype="PCM_16")
    return out.getvalue()


def test_a_device_first_takes_usual_talk_and_strong_speech_is_compared_with_it(sitting, client):
    version, session, ticket = sitting
    bundle = bundle_of(session, version)
    assert bundle["usual_talk"]["step_id"] == str(USUAL_TALK)
    assert bundle["known_talk"] == []
    phrases = step_of(version, "own_phrases")
    loud = wav(talk(-28.0))
    # before it, a strong step has nothing to be compared with: not measurable, the clinician decides
    _id, answer = put_sound(client, ticket, said(phrases.step_id), loud)
    assert answer.json()["figures"]["speech"]["over_reference_db"] is None
    _id, answer = put_sound(client, ticket, said(USUAL_TALK), wav(talk()))
    assert answer.status_code == 201
    assert list(conversations(session.client_id)) == ["tablet"]
    _id, answer = put_sound(client, ticket, said(phrases.step_id, repetition=2), loud)
    assert answer.json()["figures"]["speech"]["over_reference_db"] == pytest.approx(6, abs=0.5)
    # another device has heard nothing
    other = said(phrases.step_id, repetition=3, device={"label": "phone"})
    _id, answer = put_sound(client, ticket, other, loud)
    assert answer.json()["figures"]["speech"]["over_reference_db"] is None
    assert bundle_of(session, version)["known_talk"] == ["tablet"]


def test_usual_talk_is_no_attempt_of_the_program(sitting, client):
    version, session, ticket = sitting
    put_sound(client, ticket, said(USUAL_TALK), wav(talk()))
    row = Attempt.objects.get()
    assert (str(row.step_id), row.rung, row.note) == (str(USUAL_TALK), 0, "")
    client.force_login(version.activated_by)
    page = client.get(reverse("review:attempt", args=[row.client_id, row.pk])).content.decode()
    assert "<h1>Usual talk</h1>" in page
    entry = read_entry({"kind": "finish", "value": {}}, uuid.uuid4())
    save_entry(ticket, entry, now=NOW)
    session.refresh_from_db()
    assert session.outcome == "short"
    assert put_json(client, ticket, said(USUAL_TALK, seconds=3.0))[1].status_code == 201


def test_strong_holds_never_become_the_soft_reference(person, loud):
    strong, soft = step_of(loud, "loud_vowels"), step_of(loud, "sustained_power")

    def session(step, day, level_db):
        return save_session(
            person,
            loud,
            access=None,
            started_at=NOW.replace(day=day),
            attempts=[
                WholeAttempt(
                    step=step,
                    place=0,
                    repetition=1,
                    figures=held(7.0, level_db=level_db),
                    after_s=0,
                )
            ],
            strain=2,
            input_name="tablet",
            measured_by="test",
        )

    session(strong, 9, -18.0)
    assert level_references(person.pk) == {}
    session(soft, 10, -36.0)
    session(strong, 11, -18.0)
    assert level_references(person.pk) == {"tablet": -36.0}


def test_either_reference_is_taken_anew_by_the_clinician(
    person, version, clinician, signed_in, client
):
    session_on(person, version, 10, level_db=-30.0)
    page = reverse("review:home_levels", args=[person.pk])
    assert "−30.0" in signed_in.get(page).content.decode()
    signed_in.post(page, {"device": "tablet", "kind": "soft"})
    assert level_references(person.pk) == {}
    later = NOW + timedelta(days=1)
    assert "No level was kept" in signed_in.get(page).content.decode()
    with pytest.raises(UsecaseRefused):
        reset_level(person, device="tablet", kind="loud", by=clinician, now=later)
    reset_level(person, device="never seen", kind="soft", by=clinician, now=later)
    assert LevelReset.objects.count() == 1


def test_strong_sound_is_never_told_to_be_softer():
    from core.kinds.level.aim import LevelTarget
    from core.kinds.live import measure_sound
    from core.sound.reading import Sound

    shaky = sing(Voice(f0_hz=220.0, seconds=5.0, wobble_semitones=1.2, level_db=-30.0, seed=3))
    found = measure_sound(Sound(shaky.samples, 16_000), "hold")
    soft = Permit(task="hold", target=None, a4_hz=440.0)
    assert "softer" in attempt_words(found, soft)
    aim = LevelTarget(reference_db=-36.0, over_db=3.0)
    strong = Permit(task="hold", target=None, a4_hz=440.0, strong=True, level=aim)
    words = attempt_words(found, strong)
    assert "soft" not in words.lower()
    assert "Strong enough." in words
    far = Permit(
        task="hold",
        target=None,
        a4_hz=440.0,
        strong=True,
        level=LevelTarget(reference_db=-36.0, over_db=12.0),
    )
    assert "A little stronger" in attempt_words(found, far)
    # −30 dBFS is 15 dB over −48 + 3: more than 10 dB over what is asked is shouting, said first and never praised
    shouted = Permit(
        task="hold",
        target=None,
        a4_hz=440.0,
        target_s=3.0,
        strong=True,
        level=LevelTarget(reference_db=-48.0, over_db=3.0),
    )
    words = attempt_words(found, shouted)
    assert re.match(r"\d\.\d s\. That was shouted", words)
    assert "Strong enough" not in words
    assert "Target reached" not in words
    unknown = Permit(task="hold", target=None, a4_hz=440.0, strong=True)
    assert "trong" not in attempt_words(found, unknown)


def stopped(session, ticket, sign, step=None):
    data = {"kind": "stop", "value": sign, "step_id": step.step_id if step else None}
    save_entry(ticket, read_entry(data, uuid.uuid4()), now=NOW)
    session.refresh_from_db()
    assert session.outcome == "stopped"


@pytest.fixture
def mixed(person, clinician):
    schools = (Chosen(school="release"), Chosen(school="semi_shallow"), Chosen(school="sustained"))
    person_equipment(person, clinician)
    version = activate_program(person, clinician, schools=schools)
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    session, ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    return version, access, session, ticket


def person_equipment(person, clinician):
    from tests.web.test_conditions import screen

    screen(
        person,
        clinician,
        trouble_began_on=NOW.date() - timedelta(days=60),
        equipment=["thin_straw", "glass_of_water", "mirror"],
    )


def practiced(access, minutes=30):
    """The steps of every routine that can be opened."""
    later = NOW + timedelta(minutes=minutes)
    steps = set()
    for key in ("ladder", "release"):
        given = {"session_id": uuid.uuid4(), "now": later, "routine": key}
        with contextlib.suppress(UsecaseRefused):
            session, _ticket = open_session(access, **given)
            steps |= {step["step_id"] for step in bundle_of(session, session.version)["steps"]}
    return steps


def test_the_step_a_stop_sign_came_with_rests_at_home_until_it_is_cleared(
    mixed, person, clinician, client
):
    version, access, session, ticket = mixed
    power = step_of(version, "sustained_power")
    everything = {step.step_id for step in version.program.steps}
    stopped(session, ticket, "pain", power)
    assert practiced(access) == everything - {power.step_id}
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    today = client.get(reverse("practice:today", args=[access.pk])).content.decode()
    assert "Paused until the clinic has spoken with you" in today
    clear_stop_signs(person, by=clinician, now=NOW)
    assert practiced(access, 60) == everything


def test_after_choking_all_water_and_every_sip_rests(mixed, client):
    version, access, session, ticket = mixed
    straw = step_of(version, "straw_water")
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    page = reverse("practice:practice", args=[access.pk])
    assert "sip of water" in client.get(page).content.decode()
    stopped(session, ticket, "choking", step_of(version, "shoulder_circle"))
    assert straw.step_id not in practiced(access)
    assert "sip of water" not in client.get(page).content.decode()


@pytest.mark.parametrize("sign", ["voice_worse", "breathing"])
def test_after_a_worse_voice_or_trouble_breathing_everything_voiced_rests(mixed, sign):
    version, access, session, ticket = mixed
    stopped(session, ticket, sign, step_of(version, "shoulder_circle"))
    left = practiced(access)
    tasks = {step.task for step in version.program.steps if step.step_id in left}
    # air through the straw and the release without voice stay; the sigh and every note rest
    assert {"neck_side_stretch", "straw_water"} <= tasks
    assert not tasks & {"easy_sigh", "sustained_power", "sustained_stretch", "shoulder_circle"}


def test_a_sign_of_no_known_step_rests_everything(mixed):
    _version, access, session, ticket = mixed
    stopped(session, ticket, "another")
    with pytest.raises(UsecaseRefused, match="spoken with you"):
        open_session(access, session_id=uuid.uuid4(), now=NOW + timedelta(hours=1))
    assert HomeSession.objects.count() == 1
