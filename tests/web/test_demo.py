"""The demo's practice is performed by the simulators and measured, in every session of every kind."""

from collections import defaultdict
from dataclasses import replace

import pytest
from django.db.models import Count, Max
from django.urls import reverse

from core.kinds.registry import kinds
from core.sound import VERSION
from lab.demo.load import CLINICIANS, load_demo
from lab.demo.perform_take import performed
from lab.demo.takes import Takes
from tests.conftest import NOW
from tests.database import empty_touched_tables
from web.clients.models import Client
from web.clinic.models import User
from web.measuring.models import Measurement
from web.practice.models import USUAL_TALK, Attempt, HomeSession
from web.practice.sessions.levels import conversations

pytestmark = pytest.mark.django_db
OF_EACH_KIND = (
    "Fergal Dunmoor",  # hisses
    "Jory Penhale",  # patterns and glides
    "Jonah Tresk",  # by the clock
    "Kester Boyle",  # hiss to buzz
    "Lotte Brandvik",  # paced breath
    "Nell Harbottle",  # a tube into speech
    "Radek Ostrow",  # bubbles
    "Sorrel Vane",  # phrases near a note
    "Tobin Marl",  # strong work
)


class Noted(Takes):
    """The shipped takes, and a note of what was asked of them."""

    def __init__(self, *given):
        super().__init__(*given)
        self.noted = []

    def perform(self, takes):
        self.noted += takes
        super().perform(takes)


@pytest.fixture(scope="module")
def loaded(django_db_setup, django_db_blocker):
    """The demo, loaded once for all tests here; what each test changes in it is taken back."""
    shipped = Noted.shipped()
    with django_db_blocker.unblock():
        load_demo(NOW, shipped, only=OF_EACH_KIND)
    yield shipped
    with django_db_blocker.unblock():
        empty_touched_tables()


@pytest.fixture
def takes(loaded, db):
    own = Noted.shipped()
    own.noted, own.anew = list(loaded.noted), loaded.anew
    return own


def test_the_shipped_takes_are_what_a_performance_today_gives(takes):
    assert takes.anew == 0, "the demo changed: run ./reed takes"
    shortest = {}
    for take in sorted(takes.noted, key=lambda take: take.asked.seconds, reverse=True):
        shortest[take.task] = take
    assert set(shortest) == set(kinds())
    for take in shortest.values():
        (kept,) = takes.figures([take])
        anew = performed(take)
        assert kept.hold_s == pytest.approx(anew.hold_s, abs=0.02), take.task
        assert kept.quality.verdict == anew.quality.verdict, take.task
        assert kept.level_mean_db == pytest.approx(anew.level_mean_db, abs=0.3), take.task
        assert (kept.f0_median_hz is None) == (anew.f0_median_hz is None), take.task
        if anew.f0_median_hz is not None:
            assert kept.f0_median_hz == pytest.approx(anew.f0_median_hz, rel=0.001), take.task


def test_every_session_of_every_kind_was_measured_by_the_kernel(takes):
    assert set(Measurement.objects.values_list("measured_by", flat=True)) == {f"kernel {VERSION}"}
    measured = Attempt.objects.filter(measurement__isnull=False)
    assert set(measured.values_list("measurement__task", flat=True)) == set(kinds())
    silent = HomeSession.objects.annotate(heard=Count("attempts__measurement")).filter(heard=0)
    by_the_clock = {
        ("Jonah Tresk", "reset"),
        ("Radek Ostrow", "release"),
        ("Lotte Brandvik", "resonance"),
    }
    assert set(silent.values_list("client__name", "routine")) == by_the_clock
    assert measured.filter(seconds__gt=0).count() > 0.98 * measured.count()
    sessions = defaultdict(list)
    held = measured.filter(measurement__task="hold").order_by("started_at")
    for session, seconds in held.values_list("home_session_id", "seconds"):
        sessions[session].append(seconds)
    lengths = [tuple(own) for own in sessions.values() if len(own) > 2]
    assert len(set(lengths)) == len(lengths)  # no session is a copy of another


def test_the_last_session_of_each_client_can_be_opened_to_its_contours(takes):
    for client in Client.objects.exclude(name="Jonah Tresk"):
        sessions = HomeSession.objects.filter(client=client)
        lasts = [
            sessions.filter(routine=key).latest("started_at")
            for key in set(sessions.values_list("routine", flat=True))
        ]
        own = Attempt.objects.filter(home_session__in=lasts, measurement__isnull=False)
        assert own
        assert own.filter(measurement__contour__isnull=True).count() == 0, client.name


def test_speech_lasts_as_long_as_it_is_asked_for(takes):
    speech = Attempt.objects.filter(measurement__task="level")
    assert speech.aggregate(most=Max("target_s"))["most"] >= 30
    for attempt in speech.select_related("measurement"):
        assert attempt.seconds == pytest.approx(attempt.target_s, rel=0.25, abs=1.5)


def test_usual_talk_comes_before_the_first_strong_work_and_once(takes):
    client = Client.objects.get(name="Tobin Marl")
    first = HomeSession.objects.filter(client=client).earliest("started_at")
    (talk,) = Attempt.objects.filter(home_session__client=client, step_id=USUAL_TALK)
    assert talk.home_session == first
    assert talk == first.attempts.earliest("started_at")
    assert list(conversations(client.pk)) == ["simulated voice"]


def test_each_client_page_shows_what_it_is_for(takes, client):
    client.force_login(User.objects.get(email=CLINICIANS[0][0]))
    looks_for = {
        "Fergal Dunmoor": "level SD",
        "Jory Penhale": "notes, ",
        "Jonah Tresk": "stopwatch",
        "Kester Boyle": "silence",
        "Lotte Brandvik": "Counted breath, 3",
        "Nell Harbottle": "cents",
        "Radek Ostrow": "bubbles a second",
        "Sorrel Vane": "phrases within a semitone",
        "Tobin Marl": "against usual talk",
    }
    assert set(looks_for) == set(OF_EACH_KIND)
    for person in Client.objects.all():
        page = client.get(reverse("review:client", args=[person.pk]))
        assert page.status_code == 200
        assert looks_for[person.name] in page.content.decode(), person.name


def test_a_take_that_is_missing_or_wants_its_contour_is_performed(takes):
    take = next(take for take in takes.noted if take.task == "breath" and not take.contour)
    (before,) = takes.figures([take])
    assert len(before.contour.level_db) == 0
    (heard,) = takes.figures([replace(take, contour=True)])
    assert len(heard.contour.level_db) > 100
    assert heard.hold_s == pytest.approx(before.hold_s, abs=0.02)
    takes.figures([replace(take, seed=take.seed + 1)])
    assert takes.anew == 2
