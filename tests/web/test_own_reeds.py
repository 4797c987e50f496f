"""My reeds: the same course as the clinician reads, in plain and kind words."""

import pytest
from django.urls import reverse

from core.grading.change import SessionBest, Shift
from core.grading.course import Course, Trend
from core.grading.season import StepCourse, StepPoint
from lab.demo.load import load_demo
from lab.demo.takes import Takes
from tests.conftest import NOW, PIN
from web.clients.models import Client
from web.clients.usecases.link import make_link
from web.clinic import clock
from web.review.results.own_course import own_courses

DAY = NOW.date()


def course(values, *, code="best_s", asked=None, real=None, slope=0.0, missing=0):
    points = tuple(
        StepPoint(DAY.replace(day=1 + n), value, asked, True) for n, value in enumerate(values)
    )
    bests = tuple(SessionBest(day=p.day, value=p.value, rung=0) for p in points)
    trend = Trend(slope=slope, real=real, missing=missing)
    where = Course(code=code, bests=bests, shift=Shift(missing=missing), trend=trend)
    return StepCourse(step_id="1", name="Power notes", code=code, points=points, course=where)


def told(one):
    (own,) = own_courses([one], first=DAY.replace(day=1), last=DAY)
    return own.sentences


@pytest.mark.parametrize(
    ("one", "said"),
    [
        (course([6, 7, 8], asked=6.5), "Lately about 7 seconds. The target is 6.5 seconds."),
        (course([1.2]), "Lately about 1 second."),
        (course([12.4], code="span"), "Lately about 12 steps from low to high."),
        (
            course([5.2, 4.8], code="over_db", asked=3.0),
            "Lately about 5 dB stronger than your usual talk. The target is 3 dB stronger than your"
            " usual talk.",
        ),
        (course([0.3], code="over_db"), "Lately about as strong as your usual talk."),
        (course([88.0], code="in_tune"), "Lately about 9 of 10 notes clear."),
    ],
)  # fmt: skip
def test_figures_are_said_as_one_says_them(one, said):
    assert told(one)[0] == said


def test_where_it_leads_is_told_without_scolding():
    assert "grows" in told(course([6, 7], real=True, slope=0.4))[1]
    down = told(course([7, 6], real=True, slope=-0.4))[1]
    assert "That happens" in down
    assert "About the same" in told(course([6, 7], real=False))[1]
    assert told(course([6], missing=6))[1].startswith("After 6 more home sessions")


def test_what_is_only_done_has_no_course():
    assert own_courses([course([100.0], code="done")], first=DAY, last=DAY) == []


def test_a_reed_never_stands_taller_than_a_tenth_over_the_bar():
    (at_most,) = own_courses([course([7.15], asked=6.5)], first=DAY, last=DAY)
    (far_over,) = own_courses([course([30.0], asked=6.5)], first=DAY, last=DAY)
    assert str(far_over.drawing).split("height=")[2:4] == str(at_most.drawing).split("height=")[2:4]


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("name", "step"),
    [
        ("Maren Tidewell", "Power notes"),
        ("Petra Lindqvist", "seconds"),
        ("Alwin Prewett", "stronger than your usual talk"),
    ],
)
def test_a_client_of_each_family_sees_their_weeks(client, name, step):
    load_demo(clock.now(), Takes.shipped(), only=[name])
    person = Client.objects.get(name=name)
    access = make_link(person, by=person.clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    page = client.get(reverse("review:own_reeds", args=[access.pk])).content.decode()
    assert "own-course" in page
    assert "You practised on" in page
    assert step in page


def test_before_anything_was_practiced_it_says_what_comes_first(client, access, version):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    page = client.get(reverse("review:own_reeds", args=[access.pk])).content.decode()
    assert "Your reeds grow with your first home session." in page
