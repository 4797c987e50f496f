"""What is asked before a home session: it acts, it is asked once a day, a reset asks nothing."""

from datetime import timedelta

import pytest
from django.core import mail
from django.urls import reverse

from core.program.program import Chosen
from tests.conftest import CLOSED, NOW, PIN, activate_program
from tests.factories.going_on import opened, say, ticket_of
from web.clients.usecases.enrol import record_screening
from web.clients.usecases.link import make_link
from web.clinic import clock
from web.clinic.models import OutboxMessage
from web.practice.models import Entry, HomeSession
from web.programs.client_file import ClientFile

pytestmark = pytest.mark.django_db


@pytest.fixture
def inside(client, access, version):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    return client


def practice_page(browser, access, routine=""):
    address = reverse("practice:practice", args=[access.pk])
    return browser.get(f"{address}?routine={routine}").content.decode()


def test_a_hoarser_morning_is_kept_and_nothing_climbs_that_day(inside, access, person):
    ticket = ticket_of(opened(inside, access))
    said = {"hoarser": True, "soft_high_lost": False, "flags": []}
    assert say(inside, ticket, "before", said).status_code == 201
    session = HomeSession.objects.get()
    assert (session.hoarser, session.soft_high_lost, session.outcome) == (True, False, "open")
    # what was said to be so stays so, whatever a second device says
    say(inside, ticket, "before", {"hoarser": False, "soft_high_lost": None, "flags": []})
    session.refresh_from_db()
    assert (session.hoarser, session.soft_high_lost) == (True, False)


def test_what_was_not_asked_is_not_answered(inside, access):
    opened(inside, access)
    session = HomeSession.objects.get()
    assert (session.hoarser, session.soft_high_lost) == (None, None)


@pytest.mark.parametrize(
    ("flag", "sign", "emergency"),
    [("blood", "another", True), ("face_or_speech_sudden", "another", True),
     ("neck_lump", "another", False), (None, "breathing", True), (None, "pain", False)],
)  # fmt: skip
def test_a_red_flag_ends_it_tells_the_clinician_which_and_whom_to_call(
    inside, access, person, clinician, flag, sign, emergency
):
    bundle = opened(inside, access)
    ticket = ticket_of(bundle)
    if flag:
        say(inside, ticket, "before", {"flags": [flag]})
    say(inside, ticket, "stop", sign)
    assert HomeSession.objects.get().outcome == "stopped"
    finished = reverse("practice:finished", args=[access.pk, bundle["session_id"]])
    shown = inside.get(finished).content.decode()
    assert ("Call the emergency number now: 112." in shown) is emergency
    told = OutboxMessage.objects.filter(to=clinician.email).count() + len(mail.outbox)
    assert told >= 1
    inside.force_login(clinician)
    page = inside.get(reverse("review:client", args=[person.pk])).content.decode()
    words = {"blood": "blood", "face_or_speech_sudden": "speech", "neck_lump": "lump"}
    if flag:
        assert words[flag] in page.split("Stop sign")[1].split("</div>")[0].lower()


def test_a_red_flag_said_at_home_is_not_cleared_but_screened_for(inside, access, person, clinician):
    ticket = ticket_of(opened(inside, access))
    say(inside, ticket, "stop", "another")
    say(inside, ticket, "before", {"flags": ["blood"]})
    inside.force_login(clinician)
    clear = reverse("review:clear_stop", args=[person.pk])
    refused = inside.post(clear, CLOSED).content.decode()
    assert "Screen again first" in refused
    assert HomeSession.objects.get().stop_cleared_at is None
    said_at = Entry.objects.get(kind="before").at
    record_screening(
        person,
        by=clinician,
        now=said_at + timedelta(hours=1),
        voice="troubled",
        airway="larynx",
        asked_on=said_at.date(),
        larynx_examined_on=said_at.date() - timedelta(days=20),
        red_flags=["blood"],
    )
    inside.post(clear, CLOSED)
    assert HomeSession.objects.get().stop_cleared_at is not None
    # cleared, and the gate stays shut: blood asks for the examiner's clearance
    assert not ClientFile(person, said_at.date()).running_gate.opens("")


@pytest.mark.parametrize(
    "value",
    [[], "blood", {"flags": "blood"}, {"flags": ["plague"]}, {"hoarser": 1}, {"hoarser": "yes"},
     {"flags": [None]}, {"unknown": True}, {"flags": [["blood"]]}],
)  # fmt: skip
def test_an_answer_that_cannot_be_is_refused_and_nothing_is_kept(inside, access, value):
    ticket = ticket_of(opened(inside, access))
    assert say(inside, ticket, "before", value).status_code == 400
    assert say(inside, ticket, "stop", ["pain"]).status_code == 400
    assert not Entry.objects.exists()


def test_it_is_asked_once_a_day(inside, access):
    assert "data-asks" in practice_page(inside, access)
    assert "data-asked-on" not in practice_page(inside, access)
    ticket = ticket_of(opened(inside, access))
    say(inside, ticket, "before", {"hoarser": False, "soft_high_lost": False, "flags": []})
    day = clock.now().date().isoformat()
    assert f'data-asked-on="{day}"' in practice_page(inside, access)


def test_a_reset_asks_nothing(client, person, clinician):
    chosen = (Chosen(school="sustained"), Chosen(school="semi_reset"))
    version = activate_program(person, clinician, schools=chosen)
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    keys = {one.key for one in version.program.routines}
    assert "reset" in keys
    assert "data-asks" not in practice_page(client, access, "reset")
    assert "data-asks" in practice_page(client, access, "ladder")
