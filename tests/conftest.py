"""What every test may use: factories over the use-cases, a signed-in browserless client."""

import shutil
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import settings

from tests.environment import HAS_DATABASE

if HAS_DATABASE:
    from tests.database import django_db_setup, only_touched_tables_are_emptied  # noqa: F401

STYLES = Path("web/design/static/generated/app.css")

settings.register_profile("busy", deadline=None)
settings.load_profile("busy")
NOW = datetime(2026, 6, 14, 10, 0, tzinfo=UTC)  # the day before the tests' fixed day
PASSWORD = "harbour-lamp-77"
CLOSED = {"said": "It was a fish bone, all well again.", "then": "reopen"}
"""What closes a contact: what the client said, what was decided."""
PIN = "135791"


def pytest_collection_modifyitems(items):
    """The core is tested alone: `python -m pytest tests/core` needs neither a database nor built styles."""
    core = Path(__file__).parent / "core"
    if all(core in item.path.parents for item in items):
        return
    if not HAS_DATABASE:
        pytest.exit("Tests need their database: run ./reed test [pytest arguments]", returncode=3)
    if not STYLES.exists():
        pytest.exit("Styles are missing: run ./reed test", returncode=3)


@pytest.fixture(autouse=True)
def _own_mail_folder(settings, tmp_path):
    settings.EMAIL_FILE_PATH = str(tmp_path / "mail")


@pytest.fixture
def now():
    return NOW


@pytest.fixture
def clinic(db):
    return _clinic("Harrow Quay Voice Clinic", "lead@quay.example")


@pytest.fixture
def other_clinic(db):
    return _clinic("Far Shore Voice Clinic", "lead@shore.example")


def _clinic(name, lead_email):
    from web.clinic.usecases.staff import open_clinic

    return open_clinic(
        name=name,
        lead_email=lead_email,
        lead_name="Lead",
        password=PASSWORD,
        time_zone="Europe/Dublin",
        language="en-gb",
        telephone="000 555 0100",
    )


def member(clinic, email, role="clinician"):
    from web.clinic.models import Membership, User

    user = User.objects.create_user(email, PASSWORD, name=email.split("@")[0])
    Membership.objects.create(clinic=clinic, user=user, role=role)
    return user


@pytest.fixture
def clinician(clinic):
    return member(clinic, "una@quay.example")


@pytest.fixture
def person(clinic, clinician):
    """A screened client of the clinic."""
    return enrol(clinic, clinician)


def enrol(clinic, clinician, name="Maren Tidewell", **screening):
    from web.clients.usecases.enrol import enrol_client, record_screening
    from web.review.usecases.refresh_row import rows_worked_out_once

    answers = {
        "asked_on": NOW.date() - timedelta(days=3),
        "larynx_examined_on": NOW.date() - timedelta(days=20),
        "trouble_began_on": NOW.date() - timedelta(days=60),
        "red_flags": [],
        "voice": "troubled",
        "airway": "larynx",
    }
    with rows_worked_out_once():
        client = enrol_client(
            clinic,
            clinician=clinician,
            name=name,
            born_on=datetime(1974, 3, 1).date(),
            voice_group="women",
            time_zone="Europe/Dublin",
            occupation="School cook",
        )
        record_screening(client, by=clinician, now=NOW, **answers | screening)
    return client


def baseline_of(client, by, **more):
    """The worked case's baseline, recorded; more: what was measured besides."""
    from web.clients.baseline.view import BaselineView
    from web.clients.models import Measure
    from web.clients.usecases import baseline as measuring

    row = measuring.open_baseline(client, by=by, now=NOW)
    typed = {
        Measure.PHONATION: (9.4, 8.8, 8.1),
        Measure.STRONG: (9.2, 8.7),
        Measure.S: (17.6,),
        Measure.Z: (11.0,),
        Measure.PROBE_LOW: (8.2, 7.0),
        Measure.PROBE_MIDDLE: (8.4,),
        Measure.PROBE_TOP: (7.0,),
    }
    for measure, values in typed.items():
        for seconds in values:
            measuring.type_attempt(
                row, attempt_id=uuid.uuid4(), measure=measure, seconds=seconds, now=NOW
            )
    values = {"lowest": "G3", "highest": "G4", "height_cm": 165.0, "lung_sex": "female"}
    measuring.set_baseline(row, values | more)
    measuring.record_baseline(row, now=NOW)
    return BaselineView.of(row, 52)


def activate_program(client, by, now=NOW, schools=(), since_days=7, **measured):
    """The worked case's program, active since so many days; measured: besides what the baseline of the case has."""
    from core.program.program import Chosen
    from web.programs.client_file import ClientFile
    from web.programs.plan_request import plan_request
    from web.programs.usecases import drafts, versions
    from web.review.usecases.refresh_row import rows_worked_out_once

    with rows_worked_out_once():
        baseline_of(client, by, **measured)
        file = ClientFile(client, now.date())
        wanted = plan_request(file, chosen=schools or (Chosen(school="sustained"),))
        draft = drafts.propose(client, wanted, by=by, now=now)
        return versions.activate(
            client,
            revision=draft.revision,
            written_reason="",
            by=by,
            now=now,
            active_from=now.date() - timedelta(days=since_days),
        )


@pytest.fixture
def version(person, clinician):
    return activate_program(person, clinician)


def red_flag(client, by, flag="blood"):
    """A new red flag, noted today: the program rests."""
    from web.clients.usecases.enrol import record_screening

    record_screening(
        client,
        by=by,
        now=NOW,
        asked_on=NOW.date(),
        larynx_examined_on=NOW.date() - timedelta(days=20),
        trouble_began_on=NOW.date() - timedelta(days=60),
        red_flags=[flag],
        voice="troubled",
        airway="larynx",
    )


def streamed(answer):
    """Everything of an answer that is sent piece by piece."""
    from asgiref.sync import async_to_sync

    async def all_of_it():
        return b"".join([piece async for piece in answer])

    return async_to_sync(all_of_it)()


def record_of(client):
    """The tables of a client's whole record, as its archive holds them."""
    import io
    import json
    import zipfile

    from web.records.pack import write_record

    out = io.BytesIO()
    write_record(client, out, now=NOW)
    with zipfile.ZipFile(out) as archive:
        names = [name for name in archive.namelist() if name.startswith("record/")]
        return {name[7:-5]: json.loads(archive.read(name)) for name in names}


@pytest.fixture
def access(person, clinician):
    from web.clients.usecases.link import make_link

    return make_link(person, by=clinician, now=NOW, pin=PIN)[0]


@pytest.fixture
def home(version, access):
    """An open home session with its ticket."""
    from web.practice.usecases.open_session import open_session

    return open_session(access, session_id=uuid.uuid4(), now=NOW)


@pytest.fixture
def signed_in(client, clinician):
    client.force_login(clinician)
    return client


@pytest.fixture(scope="session")
def _language(tmp_path_factory):
    from tests.pseudo import write_language

    folder = tmp_path_factory.mktemp("locale")
    write_language(folder)
    return folder


@pytest.fixture
def strange(settings, _language):
    """The strange language is one of those the clinic can choose."""
    from tests.pseudo import LANGUAGE

    settings.LANGUAGES = [*settings.LANGUAGES, (LANGUAGE, "Strange")]
    settings.LOCALE_PATHS = [*settings.LOCALE_PATHS, str(_language)]
    return LANGUAGE


@pytest.fixture(scope="session", autouse=True)
def _no_mails_left_behind():
    yield
    shutil.rmtree("/tmp/still-reed-test-mail", ignore_errors=True)
