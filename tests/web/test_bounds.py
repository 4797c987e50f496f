"""Numbers, texts and JSON that nobody means: refused in words at the door, and by the database behind it."""

import json
import uuid

import pytest
from django.db import IntegrityError, transaction
from django.urls import reverse

from core.formats.json_input import NotPlain, read_json, read_object
from core.program.program import Chosen
from ops.terminal.measure import main as measure
from tests.conftest import NOW, activate_program, baseline_of
from tests.factories.access import clinic_lead
from tests.factories.uploads import offer, put_json, put_sound
from web.clients.models import Baseline, BaselineAttempt
from web.clinic.models import Clinic, Membership
from web.measuring.models import Measurement, StoredContour
from web.practice.models import Attempt, Correction
from web.practice.usecases.open_session import open_session

pytestmark = pytest.mark.django_db
DEEP = 20_000


@pytest.mark.parametrize(
    "text",
    [
        "", "{", b"\xff\xfe", "[" * DEEP, '{"a":' * DEEP, "[" * 41 + "]" * 41, "NaN",
        "[Infinity]", "-Infinity", "1e999",
        "9" * 5000, "1e400", str(2**60), '"\\u0000"', '{"a\\u0000": 1}',
        '"\\ud800"', "nul", "{} {}",
    ],
)  # fmt: skip
def test_what_is_no_json_we_take(text):
    with pytest.raises(NotPlain):
        read_json(text)


def test_what_is():
    assert read_json(b'{"a": [1, -2.5, "\\u266d", null]}') == {"a": [1, -2.5, "♭", None]}
    assert read_json("[" * 40 + "]" * 40)
    with pytest.raises(NotPlain):
        read_object("[]")


@pytest.mark.parametrize(
    "body",
    [b"[" * DEEP, b'{"elapsed_ms": Infinity}', b'{"device": {"label": "a\\u0000b"}}', b"\xff", b'"text"'],
)  # fmt: skip
@pytest.mark.parametrize("door", ["attempt", "entry", "home session", "ticket", "edit"])
def test_every_door_of_json_answers_in_words(client, signed_in, home, access, person, door, body):
    _session, ticket = home
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": "135791"})
    address, method = {
        "attempt": (f"/attempts/{uuid.uuid4()}/", client.put),
        "entry": (f"/entries/{uuid.uuid4()}/", client.put),
        "home session": (reverse("practice:open_session", args=[access.pk]), client.post),
        "ticket": (reverse("practice:renew_ticket", args=[access.pk]), client.post),
        "edit": (reverse("programs:edit", args=[person.pk]), signed_in.post),
    }[door]
    headers = {"X-Ticket": ticket.signed(), "Accept": "application/json"}
    answer = method(address, body, content_type="application/json", headers=headers)
    assert 400 <= answer.status_code < 500
    said = answer.json()
    assert said.get("message") or said["error"]["message"]


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("retention_years", 0),
        ("retention_years", 101),
        ("sz_ratio_flag", 1e308),
        ("short_phonation_s", 0.001),
        ("a4_hz", 1),
        ("week_minutes", 4),
        ("link_months", 0),
    ],
)
def test_a_clinics_numbers_have_limits_in_the_form_and_in_the_database(
    client, clinic, field, value
):
    client.force_login(clinic_lead(clinic))
    page = client.get(reverse("clinic:clinic"))
    posted = {name: v for name, v in page.context["form"].initial.items() if v is not None}
    assert client.post(reverse("clinic:clinic"), posted).status_code == 302
    answer = client.post(reverse("clinic:clinic"), {**posted, field: value})
    assert answer.status_code == 422
    assert answer.context["form"].errors[field]
    with pytest.raises(IntegrityError), transaction.atomic():
        Clinic.objects.filter(pk=clinic.pk).update(**{field: value})


@pytest.mark.parametrize("seconds", ["0.001", "0", "-4", "1e308", "nan", "inf", "²"])
def test_a_typed_hold_has_limits(signed_in, person, clinician, seconds):
    signed_in.post(
        reverse("clients:type_attempts", args=[person.pk]),
        {"measure": "phonation", "seconds": seconds, "attempt_id": str(uuid.uuid4())},
    )
    assert not BaselineAttempt.objects.exists()


def test_the_database_takes_no_hold_of_a_millisecond_and_no_giant(person, clinician):
    baseline_of(person, clinician)
    row = BaselineAttempt.objects.filter(taken="typed").first()
    row.pk, row.seconds = uuid.uuid4(), 0.001
    with pytest.raises(IntegrityError), transaction.atomic():
        row.save(force_insert=True)
    with pytest.raises(IntegrityError), transaction.atomic():
        Baseline.objects.update(height_cm=1e308)


@pytest.mark.parametrize("height", ["²", "1.2.3", "1e3", "٣٣٣٣", "NaN", "inf"])
def test_a_height_that_is_none_is_refused_in_words(signed_in, person, clinician, height):
    baseline_of(person, clinician)
    answer = signed_in.post(
        reverse("clients:set_baseline", args=[person.pk]), {"height_cm": height, "lowest": "G3"}
    )
    assert answer.status_code == 422
    assert answer.context["form"].errors["height_cm"]
    assert not Baseline.objects.filter(recorded_at=None).exclude(height_cm=None).exists()


@pytest.mark.parametrize("a4", ["1", "0", "nan", "inf", "1e308", "-440", "four"])
def test_the_command_takes_no_impossible_concert_pitch(capsys, a4):
    with pytest.raises(SystemExit) as ended:
        measure(["x.wav", f"--a4={a4}"])
    assert ended.value.code == 2
    assert "--a4" in capsys.readouterr().err


@pytest.mark.parametrize(
    "jobs", [b"{", b"[" * DEEP, b"5", b'[5, "x", null]', b'[{"wav": 5}]', b'[{"wav": "a", "target": []}]', b"\xff"]
)  # fmt: skip
def test_the_command_says_what_is_wrong_with_its_jobs(capsys, tmp_path, jobs):
    file = tmp_path / "jobs.json"
    file.write_bytes(jobs)
    assert measure(["--jobs", str(file)]) == 2
    said = capsys.readouterr()
    assert "Traceback" not in said.err
    for line in said.out.splitlines():
        assert json.loads(line)["error"]["message"]


def test_the_page_of_a_bad_days_attempt_opens(client, signed_in, person, clinician, access):
    version = activate_program(person, clinician, schools=(Chosen(school="loudness_longest"),))
    session, ticket = open_session(access, session_id=uuid.uuid4(), now=NOW, short_day=True)
    short = version.program.routines[0].short_day
    said = {"step_id": short.step_id, "place": 0, "seconds": 100}
    attempt_id, answer = put_json(client, ticket, said)
    assert answer.status_code == 201
    page = signed_in.get(reverse("review:attempt", args=[person.pk, attempt_id]))
    assert page.status_code == 200
    assert short.name.replace("'", "&#x27;") in page.content.decode()
    assert signed_in.get(reverse("review:client", args=[person.pk])).status_code == 200


def test_an_attempt_without_a_contour_opens_and_has_no_ends_to_move(signed_in, person, heard):
    StoredContour.objects.filter(measurement=heard.measurement).delete()
    held = reverse("review:attempt", args=[person.pk, heard.pk])
    assert signed_in.get(held).status_code == 200
    moved = {"onset_s": "0.1", "offset_s": "2.0", "reason": "by ear"}
    answer = signed_in.post(reverse("review:correct", args=[person.pk, heard.pk]), moved)
    assert answer.status_code == 422
    assert "no ends to move" in answer.content.decode()
    assert not Correction.objects.exists()


@pytest.fixture
def heard(client, home, version, sung):
    _session, ticket = home
    attempt_id, _answer = put_sound(client, ticket, offer(version), sung.as_wav())
    return Attempt.objects.get(pk=attempt_id)


BROKEN = [
    {"own": {"speech": "x"}},
    {"own": {"near": {}}},
    {"breaks": [{"start_s": 1}]},
    {"breaks": 5},
    {"reasons": [{}]},
    {"glide": {"low_hz": "a"}},
    {"verdict": "fine"},
    {"task": "humming"},
]


@pytest.mark.parametrize("fields", BROKEN, ids=str)
def test_a_row_that_cannot_be_read_is_shown_with_its_id_and_takes_no_page_down(
    signed_in, person, heard, fields
):
    Measurement.objects.filter(pk=heard.measurement_id).update(**fields)
    page = signed_in.get(reverse("review:attempt", args=[person.pk, heard.pk]))
    assert page.status_code == 200
    assert str(heard.measurement_id) in page.content.decode()
    for name in ("review:client", "review:results", "programs:bench", "records:record"):
        Membership.objects.update(role="lead")
        assert signed_in.get(reverse(name, args=[person.pk])).status_code == 200, name


def test_a_contour_that_cannot_be_read_takes_no_page_down(signed_in, person, heard):
    StoredContour.objects.update(f0=b"no contour")
    page = signed_in.get(reverse("review:attempt", args=[person.pk, heard.pk]))
    assert str(heard.measurement_id) in page.content.decode()
