"""Being heard: nothing without a yes, one try of a step a week, one listener, erased with the consent."""

import asyncio
import io
from datetime import date, timedelta

import numpy as np
import pytest
import soundfile
from django.db import connection
from django.urls import reverse

from lab.simulate.voice import Voice, sing
from tests.conftest import NOW, PIN, member
from tests.factories.live import Wire, sing_into, start_of
from tests.factories.uploads import offer, put_json, put_sound
from web.clients.models import Client
from web.clients.usecases.enrol import archive_client, erase_client
from web.clinic import clock
from web.clinic.models import AccessEvent
from web.clinic.refusal import UsecaseRefused
from web.practice.models import USUAL_TALK, Attempt, HeardSound, HearingConsent
from web.practice.usecases.recordings import (
    agree_to_be_heard,
    erase_past_sounds,
    take_back_being_heard,
)

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def sung():
    return sing(Voice(f0_hz=233.08, seconds=3.0))


@pytest.fixture
def agreed(person, clinician):
    return agree_to_be_heard(person, by=clinician, now=NOW)


def sent(client, home, version, sung, **changes):
    _session, ticket = home
    attempt_id, answer = put_sound(client, ticket, offer(version, **changes), sung.as_wav())
    assert answer.status_code == 201
    return attempt_id


def grown_younger(person, years):
    today = clock.now().date()
    Client.objects.filter(pk=person.pk).update(born_on=date(today.year - years, 1, 2))
    return Client.objects.get(pk=person.pk)


def test_without_a_yes_no_sound_is_kept(client, home, version, sung):
    sent(client, home, version, sung)
    assert Attempt.objects.count() == 1
    assert not HeardSound.objects.exists()


def test_what_is_kept_is_what_was_sent_once_a_step(client, home, version, sung, agreed):
    first = sent(client, home, version, sung, repetition=1)
    sent(client, home, version, sung, repetition=2, place=1, elapsed_ms=90_000)
    kept = HeardSound.objects.get()
    assert kept.attempt_id == first
    samples, rate_hz = soundfile.read(io.BytesIO(bytes(kept.flac)), dtype="int16")
    was, _rate = soundfile.read(io.BytesIO(sung.as_wav()), dtype="int16")
    assert (rate_hz, samples.tolist()) == (16_000, was.tolist())
    warm_up = version.content["routines"][0]["steps"][0]["step_id"]
    other = sent(client, home, version, sung, step_id=warm_up, elapsed_ms=120_000)
    assert {one.attempt_id for one in HeardSound.objects.all()} == {first, other}


def test_a_hold_heard_live_is_kept_sample_by_sample(home, version, agreed):
    voice = sing(Voice(f0_hz=233.08, seconds=2.0))
    start = start_of(home, version, elapsed_ms=60_000)

    async def talk():
        async with Wire() as wire:
            await wire.say(**start)
            await wire.hear()
            await sing_into(wire, voice.samples)
            await wire.say(type="stop", samples=len(voice.samples))
            return await wire.hear()

    assert asyncio.run(talk())["status"] == "kept"
    kept = HeardSound.objects.get(attempt_id=start["attempt_id"])
    samples, _rate = soundfile.read(io.BytesIO(bytes(kept.flac)), dtype="int16")
    assert samples.tolist() == np.round(voice.samples * 32767).astype(int).tolist()


def test_neither_a_stopwatch_nor_a_quiet_room_nor_usual_talk_is_kept(
    client, home, version, sung, agreed
):
    _session, ticket = home
    put_json(client, ticket, offer(version) | {"seconds": 6.0})
    room = np.random.default_rng(1).normal(0, 1e-4, 32_000)
    file = io.BytesIO()
    soundfile.write(file, room, 16_000, format="WAV")
    put_sound(client, ticket, offer(version), file.getvalue())
    put_sound(client, ticket, offer(version, step_id=str(USUAL_TALK)), sung.as_wav())
    assert Attempt.objects.count() == 3
    assert not HeardSound.objects.exists()


def test_what_was_made_before_the_yes_stays_unheard(client, home, version, sung, person, clinician):
    agree_to_be_heard(person, by=clinician, now=NOW + timedelta(minutes=5))
    sent(client, home, version, sung, elapsed_ms=60_000)
    assert not HeardSound.objects.exists()
    sent(client, home, version, sung, elapsed_ms=600_000, repetition=2)
    assert HeardSound.objects.count() == 1


def test_taken_back_everything_is_gone_and_nothing_more_is_kept(
    client, home, version, sung, agreed, person
):
    kept = sent(client, home, version, sung)
    assert take_back_being_heard(person, by=None, now=NOW + timedelta(hours=1)) == 1
    assert not HeardSound.objects.exists()
    sent(client, home, version, sung, repetition=2, elapsed_ms=7_200_000)
    assert not HeardSound.objects.exists()
    # the attempt, its figures and curve stay
    assert Attempt.objects.get(pk=kept).measurement.contour.seconds > 3
    assert take_back_being_heard(person, by=None, now=NOW + timedelta(hours=2)) == 0
    assert [row.agreed for row in HearingConsent.objects.order_by("at")] == [True, False]


def test_a_yes_taken_back_while_the_client_holds_counts(home, version, agreed, person):
    voice = sing(Voice(f0_hz=233.08, seconds=2.0))

    async def talk():
        async with Wire() as wire:
            await wire.say(**start_of(home, version, elapsed_ms=60_000))
            await wire.hear()
            await sing_into(wire, voice.samples)
            await asyncio.to_thread(taken_back)
            await wire.say(type="stop", samples=len(voice.samples))
            return await wire.hear()

    def taken_back():
        take_back_being_heard(person, by=None, now=NOW + timedelta(seconds=30))
        connection.close()

    assert asyncio.run(talk())["status"] == "kept"
    assert Attempt.objects.count() == 1
    assert not HeardSound.objects.exists()


def test_after_thirty_days_it_is_neither_played_nor_there(
    client, signed_in, home, version, sung, agreed, person
):
    attempt_id = sent(client, home, version, sung)
    address = reverse("review:sound", args=[person.pk, attempt_id])
    assert signed_in.get(address).status_code == 200
    HeardSound.objects.update(made_at=clock.now() - timedelta(days=30))
    assert signed_in.get(address).status_code == 404
    assert erase_past_sounds() == 1
    assert not HeardSound.objects.exists()


def test_only_who_treats_the_client_listens_and_each_time_is_written_down(
    client, clinic, home, version, sung, agreed, person, clinician
):
    attempt_id = sent(client, home, version, sung)
    address = reverse("review:sound", args=[person.pk, attempt_id])
    page = reverse("review:attempt", args=[person.pk, attempt_id])
    colleague = member(clinic, "piet@quay.example")
    lead = clinic_lead(clinic)
    for user in (colleague, lead):
        client.force_login(user)
        assert client.get(address).status_code == 403
        assert address not in client.get(page).content.decode()
    assert not AccessEvent.objects.filter(what="heard").exists()
    client.force_login(clinician)
    assert address in client.get(page).content.decode()
    answer = client.get(address)
    assert (answer.status_code, answer["Content-Type"]) == (200, "audio/flac")
    assert answer["Cache-Control"] == "no-store"
    assert answer.content == bytes(HeardSound.objects.get().flac)
    event = AccessEvent.objects.get(what="heard")
    assert (event.user, event.subject_id) == (clinician, person.pk)
    # handed over: the colleague treats the client now
    Client.objects.filter(pk=person.pk).update(clinician=colleague)
    assert client.get(address).status_code == 403
    client.force_login(colleague)
    assert client.get(address).status_code == 200


def clinic_lead(clinic):
    from web.clinic.models import Membership

    return Membership.objects.get(clinic=clinic, role="lead").user


def test_who_leaves_or_is_erased_leaves_no_sound(client, home, version, sung, agreed, person, now):
    sent(client, home, version, sung)
    archive_client(person, now=now)
    assert erase_past_sounds() == 1
    with pytest.raises(UsecaseRefused, match="no longer treated"):
        agree_to_be_heard(person, by=agreed.by, now=now)


def test_a_record_erased_takes_its_sounds_and_consents_along(
    client, home, version, sung, agreed, person, clinician, now
):
    sent(client, home, version, sung)
    erase_client(person, by=clinician, now=now)
    assert not HeardSound.objects.exists()
    assert not HearingConsent.objects.exists()


def test_in_the_visit_the_client_reads_agrees_and_takes_it_back(signed_in, person):
    address = reverse("review:hearing", args=[person.pk])
    page = signed_in.get(address).content.decode()
    for said in ("After 30 days the sound is erased", "one try of each step a week", "now una"):
        assert said in page
    refused = signed_in.post(address, {"say": "agree"})
    assert refused.status_code == 422
    assert not HearingConsent.objects.exists()
    assert signed_in.post(address, {"say": "nonsense"}).status_code == 422
    for _again in range(2):
        assert signed_in.post(address, {"say": "agree", "understood": "on"}).status_code == 302
    consent = HearingConsent.objects.get()
    assert (consent.agreed, consent.by.email) == (True, "una@quay.example")
    assert any("30 days" in line for line in consent.words)
    assert signed_in.post(address, {"say": "take_back"}).status_code == 302
    assert "No sound is kept" in signed_in.get(address).content.decode()


def test_on_their_own_page_a_client_says_yes_and_no(client, access):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    address = reverse("practice:hearing", args=[access.pk])
    assert "Nobody. No sound is kept." in client.get(address).content.decode()
    page = client.post(address, {"say": "agree"}, follow=True).content.decode()
    assert "You said yes" in page
    assert HearingConsent.objects.get().by is None
    page = client.post(address, {"say": "take_back"}, follow=True).content.decode()
    assert "Nobody. No sound is kept." in page


def test_a_minor_agrees_in_the_visit_together_with_the_guardian(
    client, access, person, clinician, now
):
    young = grown_younger(person, 12)
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    answer = client.post(reverse("practice:hearing", args=[access.pk]), {"say": "agree"})
    assert answer.status_code == 422
    assert "Your guardian agrees" in answer.content.decode()
    with pytest.raises(UsecaseRefused, match="guardian"):
        agree_to_be_heard(young, by=clinician, now=now)
    assert not HearingConsent.objects.exists()
    assert agree_to_be_heard(young, by=clinician, guardian=True, now=now).guardian
    page = client.get(reverse("practice:hearing", args=[access.pk])).content.decode()
    assert "You said yes" in page
    # of age now: what the guardian said no longer counts
    grown_younger(person, 19)
    page = client.get(reverse("practice:hearing", args=[access.pk])).content.decode()
    assert "Nobody. No sound is kept." in page
