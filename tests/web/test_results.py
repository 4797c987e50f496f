"""The Results page: a reed for each home session, the same as a table and as CSV."""

import csv
import io
import re
from datetime import date
from urllib.parse import urljoin

import pytest
from django.urls import reverse

from tests.conftest import activate_program, enrol, member
from tests.factories.pages import MOST_QUERIES
from tests.factories.practice import practice, ready, session_on
from web.practice.models import HomeSession
from web.review.results.season import window_of

pytestmark = pytest.mark.django_db


def results(client, person, **asked):
    return client.get(reverse("review:results", args=[person.pk]), asked)


def table(client, person, **asked):
    answer = client.get(reverse("review:results_table", args=[person.pk]), asked)
    return list(csv.reader(io.StringIO(answer.content.decode())))


@pytest.fixture
def practiced(person, version):
    session_on(person, version, 12, seconds=6.0)
    session_on(person, version, 13, seconds=7.0, level_db=-20.0)
    session_on(person, version, 14, seconds=7.5)
    ready(person)
    return person


def test_each_home_session_is_a_reed_that_opens(signed_in, practiced):
    page = results(signed_in, practiced).content.decode()
    # three sessions of the warm-up and five notes; the glides were by the clock and have no span
    assert page.count('class="season-reed"') == 3
    assert "B♭3 6.0\u00a0s" in page
    here = reverse("review:results", args=[practiced.pk])
    found = re.findall(r'href="([^"]*/sessions/[^"]*)"', page)
    addresses = {urljoin(here, address) for address in found}
    assert len(addresses) == 3
    opened = signed_in.get(addresses.pop()).content.decode()
    assert "Power notes" in opened
    assert "of the target" in opened


def test_a_pressed_session_stands_hollow(signed_in, practiced):
    page = results(signed_in, practiced).content.decode()
    # the first session makes the soft reference (−30 dBFS); −20 dBFS is 10 dB over it, five notes
    assert page.count('fill="#FFFDF6" stroke="#55702F"') == 5


def test_the_table_says_the_same_in_numbers(signed_in, practiced):
    head, *lines = table(signed_in, practiced)
    assert head[0] == "day"
    power = next(n for n, name in enumerate(head) if name.startswith("Power notes"))
    assert head[power].endswith("(s)")
    assert [(line[0], line[power]) for line in lines] == [
        ("2026-06-14", "7.5"),
        ("2026-06-13", "7.0"),
        ("2026-06-12", "6.0"),
    ]
    assert [line[-2] for line in lines] == ["2", "2", "2"]
    page = results(signed_in, practiced).content.decode()
    assert "<td>7.5</td>" in page


def test_two_home_sessions_stand_side_by_side(signed_in, practiced):
    first, _middle, last = HomeSession.objects.order_by("started_at")
    address = reverse("review:home_session", args=[practiced.pk, last.pk])
    page = signed_in.get(address, {"beside": str(first.pk)}).content.decode()
    assert "best 7.5" in page.replace("\u00a0", " ")
    assert "best 6.0" in page.replace("\u00a0", " ")
    for odd in ("nothing", "", str(practiced.pk)):
        assert signed_in.get(address, {"beside": odd}).status_code == 200


@pytest.mark.parametrize(
    ("asked", "first", "last"),
    [
        ({}, date(2026, 3, 24), date(2026, 6, 15)),
        ({"weeks": "4"}, date(2026, 5, 19), date(2026, 6, 15)),
        ({"weeks": "4", "until": "2026-06-01"}, date(2026, 5, 5), date(2026, 6, 1)),
        ({"weeks": "many", "until": "soon"}, date(2026, 3, 24), date(2026, 6, 15)),
        ({"weeks": "-3", "until": "2031-01-01"}, date(2026, 3, 24), date(2026, 6, 15)),
    ],
)
def test_the_weeks_shown(asked, first, last):
    assert window_of(asked, date(2026, 6, 15)) == (first, last)


def test_a_client_without_anything_is_told_what_comes(signed_in, clinic, clinician):
    someone = enrol(clinic, clinician, name="Ada Berth")
    assert "No home session in these weeks" in results(signed_in, someone).content.decode()
    activate_program(someone, clinician)
    assert "No home session in these weeks" in results(signed_in, someone).content.decode()
    assert len(table(signed_in, someone)) == 1


def test_nobody_sees_the_results_of_another_clinic(client, practiced, other_clinic):
    client.force_login(member(other_clinic, "far@shore.example"))
    assert results(client, practiced).status_code == 404
    session = HomeSession.objects.first()
    address = reverse("review:home_session", args=[practiced.pk, session.pk])
    assert client.get(address).status_code == 404


def test_a_home_session_opens_under_its_own_client_only(signed_in, practiced, clinic, clinician):
    other = enrol(clinic, clinician, name="Osric Fendt")
    session = HomeSession.objects.first()
    address = reverse("review:home_session", args=[other.pk, session.pk])
    assert signed_in.get(address).status_code == 404


def test_two_months_of_practice_take_as_many_queries_as_a_day(
    signed_in, person, version, django_assert_max_num_queries
):
    session_on(person, version, 14)
    ready(person)
    with django_assert_max_num_queries(MOST_QUERIES):
        results(signed_in, person)
    practice(person, version, *range(1, 14))
    ready(person)
    with django_assert_max_num_queries(MOST_QUERIES):
        assert results(signed_in, person).status_code == 200


def test_a_new_device_is_flagged_once(signed_in, person, version):
    for day, device in ((10, "tablet"), (11, "tablet"), (12, "telephone"), (13, "tablet")):
        session_on(person, version, day, device=device)
    ready(person)
    page = results(signed_in, person).content.decode()
    assert page.count("◇ new device") == 1
    assert "12 June: new device" in page
