"""Programs of every family: proposed on the Bench, taken from files, practiced, kept, shown."""

import json
import uuid
from dataclasses import replace
from datetime import timedelta

import pytest
from django.urls import reverse

from core.catalogue.tasks import shipped_tasks
from core.catalogue.words import Growth
from core.fitting.schools import schools
from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program, baseline_of
from tests.core.fitted import proposed, said
from tests.factories.family_pages import bench
from tests.factories.library import adapted
from tests.factories.screening_pages import practice_page, screen
from tests.factories.uploads import put_json, put_sound, say
from web.clients.usecases.link import make_link
from web.library.usecases.tasks import set_hidden
from web.practice.models import Attempt, HomeSession
from web.practice.player.bundle import bundle_of
from web.practice.player.step_words import cue_words, step_data
from web.practice.usecases.open_session import open_session
from web.programs.models import Draft, ProgramVersion, TriedTask

pytestmark = pytest.mark.django_db


def choices_of(school):
    return {one.key for one in schools()[school].choices}


@pytest.mark.parametrize("school", schools())
def test_every_school_lies_on_the_bench_and_can_be_activated(signed_in, person, clinician, school):
    baseline_of(person, clinician, speaking="B3")
    asked = {f"{school}.direction": "up"} if "direction" in choices_of(school) else {}
    assert bench(signed_in, person, school=[school], **asked).status_code == 302
    page = signed_in.get(reverse("programs:bench", args=[person.pk])).content.decode()
    for step in Draft.objects.get().program.steps:
        assert step.name.replace("'", "&#x27;") in page
    activate = reverse("programs:activate", args=[person.pk])
    assert signed_in.post(activate, {"revision": 1}).status_code == 302
    assert ProgramVersion.objects.get().program.schools[0].school == school
    assert signed_in.get(reverse("review:client", args=[person.pk])).status_code == 200
    assert signed_in.get(reverse("review:rounds")).status_code == 200


def test_several_schools_and_their_choices_make_one_program(signed_in, person, clinician):
    baseline_of(person, clinician)
    posted = {
        "school": ["sustained", "release", "resonance"],
        "sustained.goal": "airflow",
        "resonance.balance": "nose",
        "minutes": "6",
    }
    assert bench(signed_in, person, **posted).status_code == 302
    program = Draft.objects.get().program
    assert [one.school for one in program.schools] == ["sustained", "resonance", "release"]
    assert [one.key for one in program.routines] == ["ladder", "resonance", "release"]
    assert program.main_step.grade.goal == pytest.approx(34.1, abs=0.05)
    assert said(program.reasons, "session_at_most").params["most"] == 6


@pytest.mark.parametrize(
    ("posted", "words"),
    [
        ({}, "Choose at least one school"),
        ({"by_wants": "1"}, "Choose what the client wants"),
        ({"by_wants": "1", "want": ["the moon"]}, "Choose what the client wants"),
        ({"school": ["juggling"]}, "Choose at least one school"),
        ({"school": ["sustained"], "sustained.goal": "the moon"}, "none of"),
        ({"school": ["sustained"], "minutes": "soon"}, "no number of minutes"),
        ({"school": ["sustained"], "minutes": "900"}, "between 1 and 60"),
        ({"school": ["sustained"], "sustained.pitches": "speaking"}, "habitual speaking pitch"),
    ],
)
def test_a_proposal_that_cannot_be_says_why(signed_in, person, clinician, posted, words):
    baseline_of(person, clinician)
    answer = bench(signed_in, person, **posted)
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert not Draft.objects.exists()


def test_breath_holds_come_only_when_allowed(signed_in, person, clinician):
    baseline_of(person, clinician)
    bench(signed_in, person, school=["breath_hiss"])
    assert "breath_hold" not in {s.task for s in Draft.objects.get().program.steps}
    bench(signed_in, person, school=["breath_hiss"], breath_hold="on")
    assert "breath_hold" in {s.task for s in Draft.objects.get().program.steps}


def test_a_step_climbs_by_itself_on_the_bench(signed_in, person, clinician):
    baseline_of(person, clinician)
    bench(signed_in, person, school=["semi_to_speech"])
    step = Draft.objects.get().program.steps[0]
    change = {"revision": 1, "edit": "rung", "step_id": step.step_id, "value": 1}
    answer = signed_in.post(
        reverse("programs:edit", args=[person.pk]),
        json.dumps(change),
        content_type="application/json",
    )
    assert answer.status_code == 200
    moved = Draft.objects.get().program
    assert (moved.steps[0].grade.code, moved.steps[0].kind) == ("glide_up", "glide")
    assert moved.steps[1].rung == 0


def log_try(signed_in, person, **posted):
    return signed_in.post(reverse("programs:tried", args=[person.pk]), posted)


def test_what_was_tried_in_the_visit_bears_on_the_proposal(signed_in, person, clinician):
    baseline_of(person, clinician)
    screen(person, clinician, equipment=["thin_straw", "glass_of_water"])
    assert log_try(signed_in, person, task="lip_trill", went="better").status_code == 302
    assert log_try(signed_in, person, task="lip_trill", went="worse").status_code == 302
    assert log_try(signed_in, person, task="straw_water", went="better").status_code == 302
    bench(signed_in, person, school=["semi_shallow"])
    program = Draft.objects.get().program
    straws = [step.grade.code for step in program.steps if step.task == "straw_water"]
    assert straws == ["one_note"]
    assert "lip_trill" not in {step.task for step in program.steps}
    page = signed_in.get(reverse("programs:bench", args=[person.pk])).content.decode()
    assert "worse" in page


@pytest.mark.parametrize(
    "odd", [{}, {"task": "juggling", "went": "better"}, {"task": "hum", "went": "great"}]
)
def test_an_odd_try_is_refused(signed_in, person, odd):
    assert log_try(signed_in, person, **odd).status_code == 422
    assert not TriedTask.objects.exists()


def sitting(person, clinician, *keys, routine=None):
    version = activate_program(person, clinician, schools=tuple(Chosen(school=k) for k in keys))
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    session, ticket = open_session(access, session_id=uuid.uuid4(), now=NOW, routine=routine)
    return version, access, session, ticket


@pytest.fixture
def of_all(person, clinician):
    screen(person, clinician, equipment=["thin_straw", "glass_of_water", "mirror"])
    schools = ("breath_hiss", "semi_shallow", "range_full", "loudness_longest")
    return sitting(person, clinician, *schools, routine="loudness")


def by_kind(version, kind):
    return next(s for s in version.program.steps if s.kind == kind)


def test_the_bundle_has_all_the_page_needs_for_every_kind(of_all):
    version, access, _session, _ticket = of_all
    bundles = []
    for routine in version.program.routines:
        given = {"session_id": uuid.uuid4(), "now": NOW, "routine": routine.key}
        bundles.append(bundle_of(open_session(access, **given)[0], version))
    assert [one["routine"] for one in bundles] == [one.key for one in version.program.routines]
    steps = {step["kind"]: step for bundle in bundles for step in bundle["steps"]}
    assert {"timed", "hiss", "bubbles", "pattern", "level", "hold", "glide", "counted"} <= set(
        steps
    )
    for step in (step for bundle in bundles for step in bundle["steps"]):
        assert step["way"] in ("measured", "timed", "counted")
        assert all(target["seconds"] > 0 and target["label"] for target in step["targets"])
    keys = steps["pattern"]["targets"]
    assert [k["rest_s"] for k in keys[:-1]] == [0.0] * (len(keys) - 1)
    assert keys[-1]["rest_s"] > 0
    assert keys[0]["aim"].split()[0] == keys[0]["note"]
    assert steps["hiss"]["targets"][0]["hz"] is None
    assert "Effort 7 to 9" in steps["level"]["effort"]
    vowels = proposed(
        "loudness_vowels", known={"speaking": "A3", "strong_s": (9.4,)}
    ).program.steps[1]
    labels = [
        target["label"]
        for target in step_data(vowels, 440.0, day=NOW.date(), tasks=shipped_tasks())["targets"]
    ]
    assert "without your voice" in steps["bubbles"]["cue"]
    assert labels == ["“ah”, 1 of 3", "“oh”, 2 of 3", "“ee”, 3 of 3"]
    json.dumps(bundles)


def test_on_a_bad_day_one_step_stands_for_the_whole(client, of_all):
    version, access, session, ticket = of_all
    practice_page(client, access)
    address = reverse("practice:practice", args=[access.pk])
    page = client.get(f"{address}?routine=loudness").content.decode()
    assert "A bad day: only “Short day: strong reading”" in page
    opened = client.post(
        reverse("practice:open_session", args=[access.pk]),
        json.dumps({"session_id": str(session.pk), "short_day": True}),
        content_type="application/json",
    ).json()
    # three minutes or more of reading, in pieces of at most 90 s
    (only,) = opened["steps"]
    assert only["name"] == "Short day: strong reading"
    assert sum(target["seconds"] for target in only["targets"]) >= 180
    assert all(target["seconds"] <= 90 for target in only["targets"])
    short = version.program.routines[0].short_day
    for place in range(short.target.attempts):
        _id, kept = put_json(client, ticket, offer_of(short, place=place, seconds=80))
        assert kept.status_code == 201
    say(client, ticket, "finish", {"effort": 2, "discomfort": 0})
    session.refresh_from_db()
    assert session.outcome == "short"


def test_a_short_day_that_rests_is_not_offered_and_never_becomes_the_whole(client, of_all):
    version, access, session, ticket = of_all
    say(client, ticket, "stop", "voice_worse", str(version.program.steps[0].step_id))
    assert "A bad day" not in practice_page(client, access)
    # a page that stood open since before asks for it all the same
    answer = client.post(
        reverse("practice:open_session", args=[access.pk]),
        json.dumps({"session_id": str(uuid.uuid4()), "short_day": True}),
        content_type="application/json",
    )
    assert answer.status_code == 409
    assert "rests until your clinic has spoken with you" in answer.content.decode()
    assert HomeSession.objects.count() == 1


def test_strain_in_a_loudness_task_the_clinic_adapted_calls_at_once(
    signed_in, person, clinician, clinic, client
):
    assert adapted(signed_in, "own_phrases", name="Our own phrases").status_code == 302
    set_hidden(clinic, "own_phrases", hidden=True, by=clinician, now=NOW)
    loudness = (Chosen(school="loudness_vowels", options={"aim": "effort"}),)
    version = activate_program(person, clinician, schools=loudness)
    step = next(step for step in version.program.steps if step.task == "own_our_own_phrases")
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    _session, ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    assert say(client, ticket, "strain", 5, str(step.step_id)).status_code == 201
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "Throat strain 5 and more: call the client" in page


def offer_of(step, **changes):
    return {"step_id": step.step_id, "place": 0, "repetition": 1, "elapsed_ms": 1000} | changes


def test_what_was_counted_and_timed_is_kept(client, of_all, person):
    version, _access, _session, ticket = of_all
    counted, timed = by_kind(version, "counted"), by_kind(version, "timed")
    _id, kept = put_json(client, ticket, offer_of(counted, seconds=55, count=5))
    assert kept.status_code == 201
    row = Attempt.objects.get()
    assert (row.count, row.count_asked, row.state) == (5, 6, "timed")
    _id, long = put_json(client, ticket, offer_of(timed, seconds=300))
    assert long.status_code == 201
    say(client, ticket, "finish", {"effort": 2, "discomfort": 0})


@pytest.mark.parametrize("count", [-1, 121, 2.5, "many", True])
def test_an_odd_count_is_refused_in_words(client, of_all, count):
    version, _access, _session, ticket = of_all
    _id, answer = put_json(
        client, ticket, offer_of(by_kind(version, "counted"), seconds=5, count=count)
    )
    assert answer.status_code == 422
    assert not Attempt.objects.exists()


def test_no_sound_is_taken_where_only_the_clock_counts_and_no_count_where_sound_is(client, of_all):
    version, _access, _session, ticket = of_all
    _id, sound = put_sound(client, ticket, offer_of(by_kind(version, "timed")), b"RIFF")
    assert sound.status_code == 403
    _id, counted = put_json(client, ticket, offer_of(by_kind(version, "hiss"), seconds=5, count=3))
    assert counted.status_code == 422
    _id, long = put_json(client, ticket, offer_of(by_kind(version, "hiss"), seconds=300))
    assert long.status_code == 422


def test_a_place_beyond_the_step_is_refused(client, of_all):
    version, _access, _session, ticket = of_all
    pattern = by_kind(version, "pattern")
    _id, answer = put_json(
        client, ticket, offer_of(pattern, place=pattern.target.attempts, seconds=3)
    )
    assert answer.status_code == 403


def test_today_tells_every_step_the_short_day_and_the_care(client, of_all):
    version, access, _session, _ticket = of_all
    practice_page(client, access)
    page = client.get(reverse("practice:today", args=[access.pk])).content.decode()
    for step in version.program.steps:
        assert step.name in page
    assert "On a bad day do only this: Short day: strong reading" in page
    assert "Drink water" in page


def test_a_sip_in_the_care_falls_silent_when_swallowing_becomes_unsafe(
    client, of_all, person, clinician
):
    _version, access, _session, _ticket = of_all
    screen(person, clinician, conditions=["unsafe_swallowing"])
    practice_page(client, access)
    page = client.get(reverse("practice:today", args=[access.pk])).content.decode()
    assert "Drink water" not in page
    assert "sip" not in page.lower()


def test_laryngitis_blocks_loud_and_sustained_steps_of_a_running_program(
    signed_in, of_all, person, clinician
):
    screen(person, clinician, conditions=["acute_laryngitis"])
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "swollen folds rest" in page
    assert page.index("The program is on hold") < page.index("<svg")  # told before all else


def test_what_is_due_by_the_calendar_is_said(signed_in, person, clinician, version, monkeypatch):
    screen(person, clinician, conditions=["testosterone"])
    from web.clinic import clock

    later = clock.now() + timedelta(days=60)
    monkeypatch.setattr(clock, "now", lambda: later)
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "On testosterone: on testosterone a new baseline every 4–8 weeks" in page
    assert "Probe again, first rung until then" in page
    assert "the soft holds are probed first" in page


def test_a_child_gets_ten_minutes_and_over_it_nothing_opens(signed_in, clinic, clinician):
    from datetime import date

    from tests.conftest import enrol
    from web.clients.models import Client

    young = enrol(clinic, clinician, name="Corin Ashdown", guardian_consent=True)
    Client.objects.filter(pk=young.pk).update(born_on=date(2015, 1, 1))
    young.refresh_from_db()
    baseline_of(young, clinician)
    bench(signed_in, young, school=["sustained", "carry_over"])
    draft = Draft.objects.get()
    more = {
        "revision": 1,
        "edit": "set",
        "step_id": draft.program.steps[-1].step_id,
        "key": "repetitions",
        "value": "10",
    }
    edit = reverse("programs:edit", args=[young.pk])
    signed_in.post(edit, json.dumps(more), content_type="application/json")
    answer = signed_in.post(
        reverse("programs:activate", args=[young.pk]), {"revision": 2, "written_reason": "x"}
    )
    assert answer.status_code == 422
    assert "up to 10 minutes" in answer.content.decode()
    assert not ProgramVersion.objects.exists()


@pytest.mark.parametrize(("typed", "cm"), [("165", 165.0), ("65 in", 165.1), ("1650 mm", 165.0)])
def test_a_height_is_read_in_cm_or_inches(signed_in, person, typed, cm):
    from web.clients.models import Baseline

    signed_in.get(reverse("clients:baseline", args=[person.pk]))
    values = {"lowest": "G3", "highest": "G4", "height_cm": typed}
    assert (
        signed_in.post(reverse("clients:set_baseline", args=[person.pk]), values).status_code == 302
    )
    assert Baseline.objects.get().height_cm == cm
    odd = signed_in.post(
        reverse("clients:set_baseline", args=[person.pk]), values | {"height_cm": "tall"}
    )
    assert odd.status_code == 422


def test_the_demo_s_clients_are_spread_over_every_school():
    from lab.demo.people import people

    taken = {one.school for person in people() if person.weeks for one in person.schools}
    assert taken == set(schools())


def test_every_form_can_be_made_and_is_said_to_the_client():
    tasks = shipped_tasks()
    trill = proposed("semi_performer", known={"lowest": "C3", "highest": "C5"}).program.steps[0]
    codes = [rung.code for rung in tasks["lip_trill"].rungs]
    assert set(trill.grade.codes) == set(codes) - {"air_only"}
    forms = {r.code for t in tasks.values() if t.grows is Growth.FORM for r in t.rungs}
    assert len(forms) == 11
    for form in forms:
        grade = replace(trill.grade, codes=(form, *trill.grade.codes[1:]))
        words = cue_words(replace(trill, grade=grade))
        assert words
        assert not words.startswith("Now:")
