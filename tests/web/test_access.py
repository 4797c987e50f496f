"""Every route and socket as every role; a route that is not in the table fails."""

import uuid

import pytest
from django.test import Client as Browser
from django.urls import URLPattern, get_resolver, reverse

from tests.conftest import NOW, PIN, activate_program, enrol, member

PUBLIC = {
    "healthz",
    "readyz",
    "service_worker",
    "words",
    "clinic:accept_invitation",
    "practice:enter",
}
STAFF = {
    "review:home": "get",
    "review:rounds": "get",
    "review:home_levels": "get",
    "review:hearing": "get",
    "review:client": "get",
    "review:results": "get",
    "review:results_table": "get",
    "review:home_session": "get",
    "review:decide": "post",
    "review:done": "post",
    "review:clear_stop": "post",
    "review:visit": "post",
    "review:remark_session": "post",
    "review:remark_attempt": "post",
    "review:client_numbers": "get",
    "review:put_off": "post",
    "review:hand_over": "get",
    "review:read_note": "post",
    "review:look_at": "post",
    "review:attempt": "get",
    "review:correct": "post",
    "clients:enrol": "get",
    "clients:screening": "get",
    "clients:link": "post",
    "clients:for_home": "get",
    "clients:telephone": "post",
    "clients:pitch_at_home": "post",
    "clients:renew": "post",
    "clients:why": "get",
    "clients:revoke": "post",
    "clients:archive": "post",
    "clients:baseline": "get",
    "clients:set_baseline": "post",
    "clients:type_attempts": "post",
    "clients:record": "post",
    "clients:strike_out": "post",
    "clients:take_over": "post",
    "clients:attempt": "get",
    "clients:device": "get",
    "programs:bench": "get",
    "programs:propose": "post",
    "programs:edit": "post",
    "programs:activate": "post",
    "programs:export": "get",
    "programs:tried": "post",
    "programs:take_in": "post",
    "review:in_visit": "get",
    "review:visit_tried": "post",
    "review:teach": "post",
    "review:note": "post",
    "review:record_visit": "post",
    "clinic:held_form": "get",
    "review:addendum": "post",
    "programs:versions": "get",
    "programs:compare": "get",
    "programs:from_client": "post",
    "programs:from_template": "post",
    "programs:save_template": "post",
    "programs:drop_template": "post",
    "programs:restore": "post",
    "library:library": "get",
    "library:schools": "get",
    "library:task": "get",
    "library:add": "get",
    "library:materials": "get",
    "library:take_away": "post",
    "library:change": "get",
    "library:hide": "post",
    "papers:papers": "get",
    "papers:handout": "post",
    "papers:sheet": "post",
    "papers:words": "post",
    "papers:calendar": "get",
    "papers:midi": "get",
    "papers:music_xml": "get",
    "papers:take_music": "post",
    "papers:hospital": "get",
    "papers:report": "get",
    "papers:sheet_log": "get",
    "papers:sheet_check": "post",
    "papers:sheet_stop": "post",
    "papers:sheet_file": "get",
    "papers:sheet_sample": "get",
}
OWN_CLINIC = {"clinic:held_form", "review:home", "review:rounds", "clients:enrol"} | {
    name for name in STAFF if name.startswith("library:") and name != "library:take_away"
}
LEAD = {
    "clients:access": "get",
    "clinic:clinic": "get",
    "clinic:invite": "post",
    "clinic:set_staff": "post",
    "clinic:set_deputy": "post",
    "clients:erase": "post",
    "records:record": "get",
    "records:records": "get",
    "records:take_in": "post",
    "records:whole_clinic": "get",
    "records:progress": "get",
    "review:clinic_numbers": "get",
    "review:try_number": "get",
    "review:bring": "post",
}
CLIENT = {
    "practice:today": "get",
    "practice:practice": "get",
    "practice:open_session": "post",
    "practice:finished": "get",
    "practice:renew_ticket": "post",
    "review:own_reeds": "get",
    "papers:own_calendar": "get",
    "practice:hearing": "get",
    "practice:later": "post",
    "practice:usual_voice": "post",
    "practice:leave": "post",
}
TREATING = {"review:sound": "get"}
TICKET = {"attempt", "practice:entry"}
DEMO_ONLY = {"simulated_voice", "simulated_meter"}
ROLES = ("nobody", "this client", "other client", "clinician", "elsewhere", "lead")
THROUGH = {
    **{key: {"clinician", "lead"} for key in STAFF},
    **{key: {"lead"} for key in LEAD},
    **{key: {"this client"} for key in CLIENT},
    **{key: {"clinician"} for key in TREATING},
}
METHODS = STAFF | LEAD | CLIENT | TREATING


def test_every_route_is_in_the_table():
    # there is no page of one's own addresses: its route answers nobody
    known = PUBLIC | set(METHODS) | TICKET | DEMO_ONLY | {"account_email"}
    assert {name for name, _pattern in all_patterns()} == known


@pytest.fixture
def doors(clinic, other_clinic, clinician, person, version, home):
    """A browser for each role, and the objects that routes name."""
    session, ticket = home
    foreigner = member(other_clinic, "far@shore.example")
    second = enrol(clinic, clinician, name="Osric Fendt")
    activate_program(second, clinician)
    browsers = {role: Browser() for role in ROLES}
    browsers["clinician"].force_login(clinician)
    browsers["elsewhere"].force_login(foreigner)
    browsers["lead"].force_login(clinic_lead(clinic))
    _enter(browsers["this client"], session.access_id)
    from web.clients.usecases.link import make_link

    other_access = make_link(second, by=clinician, now=NOW, pin=PIN)[0]
    _enter(browsers["other client"], other_access.pk)
    return browsers, {
        "client_id": person.pk,
        "link_id": session.access_id,
        "session_id": session.pk,
        "attempt_id": kept_attempt(session).pk,
        "decision_id": decided(person, clinician).pk,
        "tried_id": tried_attempt(person, clinician).pk,
        "membership_id": clinician.membership.pk,
        "version_id": version.pk,
        "step_id": version.program.routine("ladder").steps[3].step_id,
        "note_id": signed_note(person, clinician).pk,
        "key": "straw_air",
        "work_id": person.pk,
        "sort": "progress",
        "material_id": own_material(person.clinic, clinician).pk,
    }


def signed_note(person, by):
    from web.review.visits.save_note import sign_note

    return sign_note(person, text="Steady.", revision=0, settled=(), entries=list, by=by, now=NOW)


def own_material(clinic, by):
    from web.library.materials import add_material

    fields = {"sort": "questions", "name": "At work", "level": 1, "lines": ["Who is on deck?"]}
    return add_material(clinic, by=by, now=NOW, **fields)


def kept_attempt(session):
    from web.clinic import clock
    from web.practice.models import Attempt, HeardSound

    step = session.version.program.steps[3]
    attempt = Attempt.objects.create(
        clinic_id=session.clinic_id,
        client_id=session.client_id,
        home_session=session,
        version=session.version,
        step_id=step.step_id,
        rung=0,
        place=0,
        repetition=1,
        note="G3",
        target_s=7.0,
        state="timed",
        taken="stopwatch",
        seconds=6.5,
        sha256="0" * 64,
        started_at=NOW,
        clock="server",
        received_at=NOW,
    )
    HeardSound.objects.create(
        clinic_id=session.clinic_id,
        client_id=session.client_id,
        attempt=attempt,
        step_id=step.step_id,
        made_at=clock.now(),
        flac=b"fLaC",
    )
    return attempt


def decided(person, clinician):
    from web.review.models import Decision

    return Decision.objects.create(
        clinic_id=person.clinic_id,
        client=person,
        act="contact",
        verdict="accepted",
        day=NOW.date(),
        due_on=NOW.date(),
        by=clinician,
        at=NOW,
    )


def tried_attempt(person, clinician):
    from web.clients.usecases.baseline import open_baseline, type_attempt

    baseline = open_baseline(person, by=clinician, now=NOW)
    return type_attempt(
        baseline, attempt_id=uuid.uuid4(), measure="phonation", seconds=9.0, now=NOW
    )


def clinic_lead(clinic):
    from web.clinic.models import Membership

    return Membership.objects.get(clinic=clinic, role="lead").user


def _enter(browser, link_id):
    answer = browser.post(reverse("practice:enter", args=[link_id]), {"pin": PIN})
    assert answer.status_code == 302


def address_of(name, objects):
    pattern = next(p for p in all_patterns() if p[0] == name)[1]
    wanted = pattern.pattern.converters
    return reverse(name, kwargs={key: objects[key] for key in wanted})


def all_patterns(patterns=None, prefix=""):
    for pattern in patterns or get_resolver().url_patterns:
        if isinstance(pattern, URLPattern):
            yield f"{prefix}{pattern.name}", pattern
        elif pattern.pattern.describe().strip("'") != "accounts/":
            space = f"{pattern.namespace}:" if pattern.namespace else prefix
            yield from all_patterns(pattern.url_patterns, space)


def got_through(answer):
    if answer.status_code in (401, 403):
        return False
    if answer.status_code == 302:
        return "/accounts/login/" not in answer.url and not answer.url.startswith("/c/")
    return answer.status_code != 404 or answer.resolver_match.view_name == "clients:strike_out"


@pytest.mark.parametrize("role", ROLES)
def test_who_gets_through(doors, role, django_db_blocker):
    browsers, objects = doors
    wrong = []
    for name, method in METHODS.items():
        address = address_of(name, objects)
        if name in ("practice:leave", "clients:erase", "clients:archive", "clients:strike_out"):
            continue
        answer = getattr(browsers[role], method)(address)
        if name == "clients:revoke" and role in THROUGH[name]:
            from web.clients.models import ClientAccess

            ClientAccess.objects.filter(pk=objects["link_id"]).update(revoked_at=None)
        expected = role in THROUGH[name]
        if name in OWN_CLINIC and role == "elsewhere":
            expected = True  # their own clinic's page
        missing_baseline = answer.status_code == 404 and name in (
            "clients:set_baseline",
            "clients:type_attempts",
        )
        if not missing_baseline and got_through(answer) != expected:
            wrong.append((name, answer.status_code, getattr(answer, "url", "")))
    assert not wrong


@pytest.mark.parametrize("role", ["nobody", "other client", "elsewhere", "clinician"])
def test_nobody_else_erases_or_strikes_out(doors, role, person):
    browsers, objects = doors
    answer = browsers[role].post(address_of("clients:erase", objects), {"name": person.name})
    assert answer.status_code in (302, 403, 404)
    archived = browsers[role].post(address_of("clients:archive", objects))
    assert archived.status_code in (302, 403, 404)
    person.refresh_from_db()
    assert (person.archived_at is not None) == (role == "clinician")
    if role != "clinician":
        strike = browsers[role].post(address_of("clients:strike_out", objects))
        assert strike.status_code in (302, 403, 404)


@pytest.mark.parametrize("role", ROLES)
def test_uploads_take_the_ticket_and_nothing_else(doors, role):
    browsers, _objects = doors
    for name, keyword in (("attempt", "attempt_id"), ("practice:entry", "entry_id")):
        address = reverse(name, kwargs={keyword: uuid.uuid4()})
        answer = browsers[role].put(address, b"{}", content_type="application/json")
        assert answer.status_code == 401
        made_up = browsers[role].put(address, b"{}", headers={"X-Ticket": "made.up.ticket"})
        assert made_up.status_code == 401


def test_account_routes_want_a_sign_in_unless_they_are_the_way_in(client, db, settings):
    import allauth.urls

    for pattern in allauth.urls.urlpatterns:
        for route in getattr(pattern, "url_patterns", [pattern]):
            for leaf in getattr(route, "url_patterns", [route]):
                if leaf.pattern.converters or "(" in str(leaf.pattern):
                    continue
                answer = client.get(reverse(leaf.name))
                public = leaf.name in settings.PUBLIC_VIEWS
                wants_sign_in = answer.status_code == 302 and "/login/" in answer.url
                assert public or wants_sign_in, leaf.name


def test_signing_up_is_closed(client, db):
    page = client.get("/accounts/signup/")
    assert b"Sign Up Closed" in page.content or b"closed" in page.content.lower()
    client.post("/accounts/signup/", {"email": "x@y.example", "password1": "q", "password2": "q"})
    from web.clinic.models import User

    assert not User.objects.filter(email="x@y.example").exists()


def test_a_closed_member_sees_nothing(client, clinician):
    client.force_login(clinician)
    clinician.membership.active = False
    clinician.membership.save()
    assert client.get("/rounds/").status_code == 403


def test_a_wrong_pin_a_revoked_and_a_made_up_link_look_the_same(client, access, person, clinician):
    from web.clients.usecases.link import make_link

    newer, _pin = make_link(person, by=clinician, now=NOW, pin=PIN)
    tries = [
        client.post(reverse("practice:enter", args=[newer.pk]), {"pin": "000000"}),
        client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN}),
        client.post(reverse("practice:enter", args=[uuid.uuid4()]), {"pin": PIN}),
    ]
    assert {answer.status_code for answer in tries} == {403}
    shown = {answer.content.split(b"<main")[1].split(b"csrf")[0] for answer in tries}
    assert len(shown) == 1


def test_a_revoked_link_ends_an_open_door(doors, person):
    from web.clients.usecases.link import revoke_links

    browsers, objects = doors
    assert browsers["this client"].get(address_of("practice:today", objects)).status_code == 200
    revoke_links(person, now=NOW)
    assert browsers["this client"].get(address_of("practice:today", objects)).status_code == 302
