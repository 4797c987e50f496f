"""Attempts and entries sent by PUT: once kept, never lost, never in another's record."""

import io
import json
import uuid
import wave

import numpy as np
import pytest
import soundfile

from lab.simulate.voice import Voice, sing
from tests.conftest import NOW, activate_program, enrol
from tests.factories.uploads import (
    offer,
    power,
    put_json,
    put_sound,
    say,
)
from web.clients.usecases.link import make_link, revoke_links
from web.measuring.models import Measurement
from web.measuring.tickets import Ticket
from web.practice.models import Attempt, Entry, HomeSession, SetAside
from web.practice.usecases.open_session import open_session

pytestmark = pytest.mark.django_db


def test_a_hold_is_measured_and_kept_with_its_target(client, home, version, sung):
    _session, ticket = home
    attempt_id, answer = put_sound(client, ticket, offer(version), sung.as_wav())
    assert answer.status_code == 201
    row = Attempt.objects.get(pk=attempt_id)
    assert row.seconds == pytest.approx(sung.hold_s, abs=0.02)
    assert (row.note, row.target_s, row.rung, row.taken) == ("B♭3", 6.5, 0, "wav")
    assert row.clock == "server"
    assert (row.started_at - NOW).total_seconds() == 60
    assert row.measurement.pitch_error_cents == pytest.approx(0, abs=2)
    assert row.measurement.contour.curve().f0_hz[200] == pytest.approx(233, abs=3)
    assert answer.json()["figures"]["hold_s"] == pytest.approx(row.seconds, abs=0.001)
    assert "s." in answer.json()["words"]


def test_the_same_body_again_is_200_and_one_row(client, home, version, sung):
    _session, ticket = home
    attempt_id, first = put_sound(client, ticket, offer(version), sung.as_wav())
    _id, again = put_sound(client, ticket, offer(version), sung.as_wav(), attempt_id)
    assert (first.status_code, again.status_code) == (201, 200)
    assert Attempt.objects.count() == Measurement.objects.count() == 1


def test_a_different_body_is_409_and_set_aside_for_the_clinician(client, home, version, sung):
    _session, ticket = home
    attempt_id, _first = put_sound(client, ticket, offer(version), sung.as_wav())
    other = sing(Voice(f0_hz=233.08, seconds=2.0)).as_wav()
    for _ in range(2):
        _id, second = put_sound(client, ticket, offer(version), other, attempt_id)
        assert second.status_code == 409
    assert Attempt.objects.get(pk=attempt_id).seconds == pytest.approx(sung.hold_s, abs=0.02)
    aside = SetAside.objects.get()
    assert (aside.reason, aside.upload_id) == ("differs", attempt_id)
    assert aside.figures["hold_s"] == pytest.approx(1.98, abs=0.03)


def test_after_revocation_uploads_are_quarantined_not_lost(client, home, version, sung, person):
    session, ticket = home
    revoke_links(person, now=NOW)
    attempt_id, answer = put_sound(client, ticket, offer(version), sung.as_wav())
    assert answer.status_code == 202
    assert not Attempt.objects.exists()
    assert SetAside.objects.get().figures["hold_s"] == pytest.approx(sung.hold_s, abs=0.02)
    entry = client.put(
        f"/entries/{uuid.uuid4()}/",
        json.dumps({"kind": "stop", "value": "pain"}),
        content_type="application/json",
        headers={"X-Ticket": ticket.signed()},
    )
    assert entry.status_code == 202
    assert SetAside.objects.count() == 2
    session.refresh_from_db()
    assert session.outcome == "open"


def test_an_attempt_id_of_another_client_never_lands_in_their_record(
    client, home, version, sung, clinic, clinician
):
    _session, ticket = home
    attempt_id, _ = put_sound(client, ticket, offer(version), sung.as_wav())
    stranger = enrol(clinic, clinician, name="Osric Fendt")
    their_version = activate_program(stranger, clinician)
    their_access, _pin = make_link(stranger, by=clinician, now=NOW)
    _their_session, their_ticket = open_session(their_access, session_id=uuid.uuid4(), now=NOW)
    _id, answer = put_sound(client, their_ticket, offer(their_version), sung.as_wav(), attempt_id)
    assert answer.status_code == 409
    assert Attempt.objects.get(pk=attempt_id).client_id != stranger.pk
    assert SetAside.objects.get().client_id == stranger.pk


def test_a_ticket_for_a_session_of_somebody_else_opens_nothing(
    client, home, version, clinic, clinician, sung
):
    _session, ticket = home
    stranger = enrol(clinic, clinician, name="Osric Fendt")
    forged = Ticket(
        purpose="practice",
        clinic=ticket.clinic,
        client=str(stranger.pk),
        holder=ticket.holder,
        sitting=ticket.sitting,
        issued_at=ticket.issued_at,
    )
    _id, answer = put_sound(client, forged, offer(version), sung.as_wav())
    assert answer.status_code == 401


def test_the_stopwatch_says_how_it_was_taken(client, home, version):
    _session, ticket = home
    attempt_id, answer = put_json(client, ticket, offer(version, seconds=7.31, input="none"))
    assert answer.status_code == 201
    row = Attempt.objects.get(pk=attempt_id)
    assert (row.seconds, row.taken, row.state, row.measurement) == (
        7.31,
        "stopwatch",
        "timed",
        None,
    )


def test_power_lost_in_a_hold_is_interrupted_and_no_short_hold(client, home, version):
    _session, ticket = home
    attempt_id, answer = put_json(
        client, ticket, offer(version, seconds=1.2, interrupted=True, elapsed_ms=None)
    )
    assert answer.status_code == 201
    row = Attempt.objects.get(pk=attempt_id)
    assert (row.state, row.clock) == ("interrupted", "estimated")


@pytest.mark.parametrize(
    ("changes", "status"),
    [
        ({"seconds": 0}, 422),
        ({"seconds": -3}, 422),
        ({"seconds": 1000}, 422),
        ({"seconds": "7"}, 422),
        ({"seconds": None}, 422),
        ({"seconds": float("nan")}, 400),
        ({"seconds": 5, "step_id": str(uuid.uuid4())}, 403),
        ({"seconds": 5, "place": 9}, 403),
        ({"seconds": 5, "place": -1}, 400),
        ({"seconds": 5, "repetition": 0}, 400),
        ({"seconds": 5, "device": "loud"}, 400),
        ({"seconds": 5, "elapsed_ms": -5}, 400),
        ({"seconds": 5, "input": "telepathy"}, 400),
    ],
)
def test_odd_offers_are_refused_in_words(client, home, version, changes, status):
    _session, ticket = home
    _id, answer = put_json(client, ticket, offer(version, **changes))
    assert answer.status_code == status
    assert answer.json()["error"]["message"]
    assert not Attempt.objects.exists()


@pytest.mark.parametrize("body", [b"[]", b"null", b"{", b'"x"', b"\xff\xfe"])
def test_what_is_no_offer_is_400(client, home, body):
    answer = client.put(
        f"/attempts/{uuid.uuid4()}/",
        body,
        content_type="application/json",
        headers={"X-Ticket": home[1].signed()},
    )
    assert answer.status_code == 400


def silent_wav(seconds):
    file = io.BytesIO()
    with wave.open(file, "wb") as out:
        out.setparams((1, 2, 16_000, 0, "NONE", ""))
        out.writeframes(b"\0\0" * int(16_000 * seconds))
    return file.getvalue()


@pytest.mark.parametrize(
    ("body", "status", "code"),
    [
        (b"", 422, "sound_empty"),
        (b"RIFF but no wave", 422, "sound_truncated"),
        (silent_wav(2)[:9000], 422, "sound_truncated"),
        (silent_wav(121), 413, "sound_too_long"),
        (b"RIFF" + bytes(25 * 1024 * 1024 + 1), 413, "sound_too_large"),
    ],
)
def test_bad_sound_is_4xx_and_nothing_is_half_kept(client, home, version, body, status, code):
    _session, ticket = home
    _id, answer = put_sound(client, ticket, offer(version), body)
    assert (answer.status_code, answer.json()["error"]["code"]) == (status, code)
    assert not Attempt.objects.exists()
    assert not Measurement.objects.exists()


def test_silence_is_kept_as_nothing_held(client, home, version):
    _session, ticket = home
    attempt_id, answer = put_sound(client, ticket, offer(version), silent_wav(3))
    assert answer.status_code == 201
    assert Attempt.objects.get(pk=attempt_id).seconds == 0
    assert "Nothing was measured" in answer.json()["words"]


def test_gain_control_left_on_means_no_levels(client, home, version, sung):
    _session, ticket = home
    said = offer(version, device={"label": "Phone", "autoGainControl": True, "password": "x"})
    attempt_id, _ = put_sound(client, ticket, said, sung.as_wav())
    measured = Attempt.objects.get(pk=attempt_id).measurement
    assert measured.level_mean_db is None
    assert measured.hold_s
    assert measured.device == {"autoGainControl": True, "label": "Phone"}


def test_stereo_at_44_khz_is_measured_too(client, home, version):
    _session, ticket = home
    sung = sing(Voice(f0_hz=233.08, seconds=2.0), 44_100)
    file = io.BytesIO()
    soundfile.write(
        file, np.stack((sung.samples, sung.samples * 0), 1), 44_100, subtype="PCM_24", format="WAV"
    )
    attempt_id, _ = put_sound(client, ticket, offer(version), file.getvalue())
    assert Attempt.objects.get(pk=attempt_id).seconds == pytest.approx(sung.hold_s, abs=0.02)


def test_strain_and_finish_are_kept_once(client, home, version):
    session, ticket = home
    entry_id = uuid.uuid4()
    statuses = [
        say(client, ticket, "strain", 3, power(version), entry_id).status_code for _ in range(2)
    ]
    assert statuses == [201, 200]
    assert say(client, ticket, "strain", 8, power(version), entry_id).status_code == 409
    assert Entry.objects.get().value == 3
    put_json(client, ticket, offer(version, seconds=7))
    assert say(client, ticket, "finish", {"effort": 4, "discomfort": None}).status_code == 201
    session.refresh_from_db()
    assert (session.outcome, session.effort) == ("short", 4)


def test_a_stop_sign_ends_the_session_and_a_late_finish_does_not_undo_it(client, home, person):
    session, ticket = home
    assert say(client, ticket, "stop", "pain").status_code == 201
    assert say(client, ticket, "finish", {"effort": 1, "discomfort": 1}).status_code == 201
    session.refresh_from_db()
    assert (session.outcome, session.stop_sign) == ("stopped", "pain")
    person.caseload_row.refresh_from_db()
    assert person.caseload_row.stop_sign == "pain"


@pytest.mark.parametrize(
    ("kind", "value"),
    [("strain", 11), ("strain", "2"), ("strain", None), ("strain", True), ("stop", "bored"),
     ("finish", 3), ("finish", {"effort": 12}), ("dance", 1)],
)  # fmt: skip
def test_odd_entries_are_refused(client, home, version, kind, value):
    answer = say(client, home[1], kind, value, power(version))
    assert answer.status_code == 400
    assert HomeSession.objects.get().outcome == "open"


def test_all_attempts_make_a_kept_session(client, home, version):
    session, ticket = home
    for step in version.content["routines"][0]["steps"]:
        for repetition in (1, 2):
            for place in range(len(step["target"].get("holds", [])) or 1):
                said = offer(
                    version, step_id=step["step_id"], place=place, repetition=repetition, seconds=7
                )
                put_json(client, ticket, said)
    say(client, ticket, "finish", {"effort": 2, "discomfort": 0})
    session.refresh_from_db()
    assert session.outcome == "kept"
    assert Attempt.objects.count() == 16
