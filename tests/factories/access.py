"""What `tests/web/test_access.py` and others make and look at."""

import uuid

import pytest
from django.test import Client as Browser
from django.urls import URLPattern, get_resolver, reverse

from tests.conftest import NOW, PIN, activate_program, enrol, member

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


ROLES = ("nobody", "this client", "other client", "clinician", "elsewhere", "lead")


METHODS = STAFF | LEAD | CLIENT | TREATING


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
    from web.review.usecases.save_note import sign_note

    return sign_note(person, text="Steady.", revision=0, settled=(), entries=list, by=by, now=NOW)


def own_material(clinic, by):
    from web.library.usecases.materials import add_material

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
