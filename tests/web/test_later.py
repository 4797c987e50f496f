"""What is done in the course of the day: left in practice, ticked off on Today, kept once."""

import uuid

import pytest
from django.urls import reverse

from core.program.program import Chosen
from tests.conftest import PIN, activate_program
from tests.factories.uploads import put_json, say
from web.clinic import clock
from web.practice.models import Attempt, Entry, HomeSession, Outcome
from web.practice.player.bundle import bundle_of
from web.practice.usecases.open_session import open_session

pytestmark = pytest.mark.django_db


@pytest.fixture
def carried(person, clinician):
    return activate_program(person, clinician, schools=(Chosen(school="carry_over"),))


@pytest.fixture
def done_at_home(client, carried, access):
    """A home session in which all was done that is done at home."""
    session, ticket = open_session(access, session_id=uuid.uuid4(), now=clock.now())
    for step in bundle_of(session, carried)["steps"]:
        for place, target in enumerate(step["targets"]):
            if not step["later"]:
                offer = {"step_id": step["step_id"], "place": place, "seconds": 30}
                count = {"count": target["count"]} if target["count"] else {}
                assert put_json(client, ticket, offer | count)[1].status_code == 201
    assert say(client, ticket, "finish", {"effort": 3, "discomfort": 0}).status_code == 201
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    return session


def step_of(version, task):
    return next(step for step in version.program.steps if step.task == task)


def ticked(client, access, session, step, **said):
    posted = {"session": str(session.pk), "step": step.step_id, **said}
    return client.post(reverse("practice:later", args=[access.pk]), posted)


def today(client, access):
    return client.get(reverse("practice:today", args=[access.pk])).content.decode()


def test_what_is_left_for_the_day_is_not_waited_for_and_stands_on_today(
    client, access, done_at_home
):
    done_at_home.refresh_from_db()
    assert done_at_home.outcome == Outcome.KEPT
    page = today(client, access)
    assert "Later today" in page
    assert "In the real place" in page
    assert "Talk with the new voice" in page
    assert "Counting with the new voice</strong>" not in page
    finished = client.get(reverse("practice:finished", args=[access.pk, done_at_home.pk]))
    assert "Still to do in the day:" in finished.content.decode()


def test_the_own_places_are_named_where_a_step_goes_out_into_them(
    client, access, carried, signed_in, person
):
    address = reverse("clients:for_home", args=[person.pk])
    told = {"places": "the fish market\n  the fish market \r\nthe harbour radio\n"}
    assert signed_in.post(address, told).status_code == 302
    session, _ticket = open_session(access, session_id=uuid.uuid4(), now=clock.now())
    steps = bundle_of(session, carried)["steps"]
    named = [step for step in steps if "Yours: the fish market, the harbour radio." in step["cue"]]
    assert named
    for odd in ("x" * 61, "\n".join(f"place {n}" for n in range(13))):
        answer = signed_in.post(address, {"places": odd})
        assert answer.status_code == 422
    assert "the harbour radio" in signed_in.get(address).content.decode()


def test_places_are_not_named_for_the_position_of_a_breath(person, clinician, access):
    from web.clients.usecases.for_home import save_places

    version = activate_program(person, clinician, schools=(Chosen(school="breath_beats"),))
    save_places(person, ["the quay"], by=clinician, now=clock.now())
    session, _ticket = open_session(access, session_id=uuid.uuid4(), now=clock.now())
    assert not [s for s in bundle_of(session, version)["steps"] if "quay" in s["cue"]]


def test_it_is_ticked_off_once_with_its_count_and_strain(client, access, carried, done_at_home):
    place = step_of(carried, "real_place")
    assert ticked(client, access, done_at_home, place, count=2, strain=3).status_code == 302
    attempt = Attempt.objects.get(step_id=place.step_id)
    assert (attempt.count, attempt.count_asked, attempt.taken) == (2, 3, "typed")
    assert attempt.home_session == done_at_home
    entry = Entry.objects.get(kind="strain", step_id=place.step_id)
    assert entry.value == 3
    assert "In the real place</strong>" not in today(client, access)
    # a second tap, or another number, changes nothing
    again = ticked(client, access, done_at_home, place, count=3)
    assert again.status_code == 409
    assert "ticked off already" in again.content.decode()
    assert Attempt.objects.get(step_id=place.step_id).count == 2


def test_what_is_done_by_the_clock_is_simply_done(client, access, carried, done_at_home):
    talk = step_of(carried, "carry_talk")
    assert ticked(client, access, done_at_home, talk).status_code == 302
    assert Attempt.objects.get(step_id=talk.step_id).seconds == talk.target.seconds


@pytest.mark.parametrize(
    "said",
    [
        {},
        {"count": ""},
        {"count": "4"},
        {"count": "-1"},
        {"count": "two"},
        {"count": "1", "strain": "11"},
    ],
)
def test_what_cannot_be_is_refused_in_words(client, access, carried, done_at_home, said):
    place = step_of(carried, "real_place")
    answer = ticked(client, access, done_at_home, place, **said)
    assert answer.status_code == 409
    assert 'role="alert"' in answer.content.decode()
    assert not Attempt.objects.filter(step_id=place.step_id).exists()


def test_nothing_of_another_session_or_step_is_ticked(client, access, carried, done_at_home):
    counting = step_of(carried, "carry_counting")
    assert ticked(client, access, done_at_home, counting, count=1).status_code == 409
    unknown = HomeSession(pk=uuid.uuid4())
    assert (
        ticked(client, access, unknown, step_of(carried, "real_place"), count=1).status_code == 409
    )
