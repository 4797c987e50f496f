"""A warm-up of the day comes with the bundle, for every choice; elsewhere there is none."""

import json
import uuid
from datetime import timedelta

import pytest
from django.urls import reverse

from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program
from tests.factories.uploads import say
from web.clients.usecases.link import make_link
from web.clinic import clock
from web.measuring.sinks import AttemptOffer, AttemptTaken
from web.measuring.tickets import Ticket
from web.practice.models import Attempt
from web.practice.usecases.save_attempt import PracticeSink

pytestmark = pytest.mark.django_db


@pytest.fixture
def opened(client, person, clinician):
    def bundle_of(*schools, routine=None):
        activate_program(person, clinician, schools=tuple(Chosen(school=one) for one in schools))
        access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
        client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
        answer = client.post(
            reverse("practice:open_session", args=[access.pk]),
            json.dumps({"session_id": str(uuid.uuid4()), "routine": routine}),
            content_type="application/json",
        )
        assert answer.status_code == 200, answer.content
        page = client.get(
            reverse("practice:practice", args=[access.pk]), {"routine": routine or ""}
        )
        return answer.json(), page.content.decode()

    return bundle_of


def test_every_choice_has_its_plan_made_of_steps_in_the_bundle(opened):
    bundle, page = opened("warm_up", "cool_down", routine="warm_up")
    # 5 lengths, speaking or singing, fresh or thick or tired
    assert len(bundle["plans"]) == 30
    known = {step["step_id"] for step in bundle["steps"] + bundle["more_steps"]}
    for plan in bundle["plans"]:
        assert plan["parts"]
        assert {part["step_id"] for part in plan["parts"]} <= known
        assert plan["minutes"] <= plan["wanted"] or plan["wanted"] == 5
    spoken = [plan for plan in bundle["plans"] if plan["purpose"] == "speaking"]
    assert all(any("for singing only" in line for line in plan["trimmed"]) for plan in spoken)
    assert 'id="plan-minutes"' in page


def test_an_attempt_of_another_routines_step_is_kept(opened):
    bundle, _page = opened("warm_up", "release", routine="warm_up")
    other = next(step for step in bundle["more_steps"] if step["way"] == "timed")
    ticket = Ticket.read(bundle["ticket"])
    end = PracticeSink()
    offer = AttemptOffer(attempt_id=str(uuid.uuid4()), step_id=other["step_id"])
    caught = AttemptTaken(taken="stopwatch", sha256="0" * 64, seconds=20.0)
    later = clock.now() + timedelta(minutes=1)
    assert end.keep(ticket, offer, end.permit(ticket, offer), caught, later).status == "kept"
    assert str(Attempt.objects.get().step_id) == other["step_id"]


def test_other_routines_have_no_plans(opened):
    bundle, page = opened("sustained")
    assert (bundle["plans"], bundle["more_steps"]) == (None, [])
    assert "plan-minutes" not in page


@pytest.mark.parametrize(
    ("schools", "routine", "follows"),
    [
        (("warm_up", "cool_down"), "warm_up", True),
        (("warm_up",), "warm_up", False),
        (("warm_up", "cool_down"), "cool_down", False),
    ],
)
def test_after_a_warm_up_the_cool_down_is_one_tap_away(client, opened, schools, routine, follows):
    bundle, _page = opened(*schools, routine=routine)
    ticket = Ticket.read(bundle["ticket"])
    say(client, ticket, "finish", {"effort": 2, "discomfort": 0})
    page = client.get(reverse("practice:finished", args=[ticket.holder, ticket.sitting]))
    assert ("Start the cool-down" in page.content.decode()) == follows
