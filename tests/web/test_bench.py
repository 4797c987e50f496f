"""The Bench as a workbench: edits, undo to the start and back, what was changed, the shelf, the calendar, the gate."""

import re

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from core.editing.step_settings import settings_of
from tests.conftest import activate_program, baseline_of, enrol
from tests.factories.pages import edit, propose, url
from web.programs.models import Draft, ProgramVersion

pytestmark = pytest.mark.django_db


@pytest.fixture
def draft(signed_in, person, clinician):
    baseline_of(person, clinician)
    assert propose(signed_in, person).status_code == 302
    return Draft.objects.get()


def now_on(person) -> Draft:
    return Draft.objects.get(client=person)


def did(signed_in, person, **change) -> str:
    """One edit that must go through; the page it answers with."""
    answer = edit(signed_in, person, now_on(person).revision, **change)
    assert answer.status_code == 200, answer.content
    return answer.json()["html"]


def step_named(draft, name):
    return next(step for step in draft.program.steps if step.name == name)


def test_ten_changes_are_undone_to_the_start_and_done_again(signed_in, person, draft):
    power = step_named(draft, "Power notes").step_id
    for count in (3, 4, 5, 6, 7):
        did(signed_in, person, edit="set", step_id=power, key="repetitions", value=str(count))
        did(signed_in, person, edit="order", step_id=power, by=-1 if count % 2 else 1)
    last = now_on(person).program
    undone = 0
    while now_on(person).past:
        did(signed_in, person, edit="undo")
        undone += 1
    assert undone == 10
    assert now_on(person).program == draft.program
    assert edit(signed_in, person, now_on(person).revision, edit="undo").status_code == 422
    for _ in range(10):
        did(signed_in, person, edit="redo")
    assert now_on(person).program == last
    assert edit(signed_in, person, now_on(person).revision, edit="redo").status_code == 422


def test_a_new_change_forgets_what_was_undone(signed_in, person, draft):
    power = step_named(draft, "Power notes").step_id
    did(signed_in, person, edit="remove", step_id=power)
    did(signed_in, person, edit="undo")
    did(signed_in, person, edit="rung", step_id=power, value=1)
    answer = edit(signed_in, person, now_on(person).revision, edit="redo")
    assert answer.status_code == 422
    assert "nothing to do again" in answer.json()["message"]


def test_proposing_again_is_undone_with_what_it_is_compared_with(signed_in, person, draft):
    power = step_named(draft, "Power notes").step_id
    did(signed_in, person, edit="set", step_id=power, key="repetitions", value="5")
    propose(signed_in, person, school=["breath_hiss"])
    assert now_on(person).began_as == now_on(person).program
    did(signed_in, person, edit="undo")
    assert now_on(person).began_as == draft.program
    assert now_on(person).program.step(power).repetitions == 5


@settings(
    max_examples=12, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None
)
@given(st.data())
def test_any_edits_then_undone_give_the_same_program(signed_in, person, draft, data):
    before = now_on(person)
    for _ in range(data.draw(st.integers(1, 6))):
        steps = now_on(person).program.steps
        # drawn without looking at the draft, so that every try of an example draws the same
        step = steps[data.draw(st.integers(0, 99)) % len(steps)]
        kind = data.draw(st.sampled_from(["order", "duplicate", "remove", "nudge", "rung", "away"]))
        keys = [one.settable.key for one in settings_of(step)]
        key = keys[data.draw(st.integers(0, 99)) % len(keys)]
        by = data.draw(st.integers(-4, 4))
        change = {"step_id": step.step_id, "by": by, "key": key, "value": abs(by)}
        if kind == "away":
            change["value"] = f"2026-06-{20 + by}"
        edit(signed_in, person, now_on(person).revision, edit=kind, **change)
    while len(now_on(person).past) > len(before.past):
        did(signed_in, person, edit="undo")
    assert now_on(person).program == before.program


def test_what_was_changed_is_marked_and_goes_back_in_one_step(signed_in, person, draft):
    glide = step_named(draft, "Stretch glide").step_id
    page = did(signed_in, person, edit="look", chosen=glide)
    assert "Back to what it was" not in page
    page = did(signed_in, person, edit="set", step_id=glide, key="seconds", value="5", chosen=glide)
    assert re.search(r'title="was 8"[^>]*>changed', page)
    assert "Back to what it was" in page
    page = did(signed_in, person, edit="as_before", step_id=glide, chosen=glide)
    assert "Back to what it was" not in page
    assert now_on(person).program == draft.program


def test_looking_at_a_step_changes_nothing_and_shows_its_drawing(signed_in, person, draft):
    glide = step_named(draft, "Stretch glide").step_id
    page = did(signed_in, person, edit="look", chosen=glide)
    assert now_on(person).revision == draft.revision
    assert f'data-chosen="{glide}"' in page
    assert 'data-across="end"' in page
    assert 'data-up="seconds"' in page
    # the same by its address, without a script
    whole = signed_in.get(url("programs:bench", person.pk) + f"?step={glide}").content.decode()
    assert f'data-chosen="{glide}"' in whole
    odd = signed_in.get(url("programs:bench", person.pk) + "?step=nobody%00")
    assert odd.status_code == 200


def test_a_task_is_added_from_the_shelf_and_one_that_cannot_be_says_why(signed_in, person, draft):
    page = signed_in.get(url("programs:bench", person.pk)).content.decode()
    shelf = page[page.index('id="shelf"') : page.index("</nav>", page.index('id="shelf"'))]
    assert 'data-add="shoulder_circle"' in shelf
    assert 'data-add="balloon"' not in shelf
    assert "There is no balloon at home" in shelf
    assert 'data-add="breath_hold"' not in shelf
    page = did(signed_in, person, edit="add", task="shoulder_circle", routine="ladder")
    assert now_on(person).program.steps[0].task == "shoulder_circle"
    assert "<em>added</em>" in page
    answer = edit(
        signed_in, person, now_on(person).revision, edit="add", task="balloon", routine="ladder"
    )
    assert answer.status_code == 422
    assert answer.json()["message"] == "Balloon: there is no balloon at home."


def test_sixty_steps_are_refused_in_words(signed_in, person, draft):
    power = step_named(draft, "Power notes").step_id
    for _ in range(36):
        did(signed_in, person, edit="duplicate", step_id=power)
    answer = edit(signed_in, person, now_on(person).revision, edit="duplicate", step_id=power)
    assert answer.status_code == 422
    assert answer.json()["message"] == "41 steps: a program takes at most 40."
    assert len(now_on(person).program.steps) == 40


def test_a_week_with_no_free_day_and_a_full_day_are_refused(signed_in, person, draft):
    for day in (1, 2, 3, 4, 5, 6):
        did(signed_in, person, edit="weekday", routine="ladder", value=day)
    last = edit(
        signed_in, person, now_on(person).revision, edit="weekday", routine="ladder", value=7
    )
    assert "no free day" in last.json()["message"]
    full = edit(
        signed_in,
        person,
        now_on(person).revision,
        edit="calendar",
        routine="ladder",
        key="quiet",
        value="8:00–7:00",
    )
    assert full.status_code == 422
    assert "do not fit" in full.json()["message"]


def test_the_calendar_shows_the_real_days_of_a_draft(signed_in, person, draft):
    page = did(signed_in, person, edit="away", value="2026-06-20")
    assert "Sat 20 Jun: away" in page
    assert "Mon 15 Jun: 2 home sessions" in page
    page = did(signed_in, person, edit="weekday", routine="ladder", value=3)
    assert "Wed 17 Jun: 0 home sessions" in page
    # six days of two sessions of 7.2 min are 86 min
    assert "<strong>86 min</strong>" in page


def test_the_gate_stands_beside_at_once(signed_in, clinic, clinician):
    other = enrol(clinic, clinician, name="Corin Ashdown", conditions=["late_pregnancy"])
    baseline_of(other, clinician)
    propose(signed_in, other)
    glide = step_named(now_on(other), "Stretch glide").step_id
    before = did(signed_in, other, edit="look", chosen=glide)
    assert "lying flat" not in before.lower()
    after = did(
        signed_in, other, edit="set", step_id=glide, key="presented.position", value="lying"
    )
    assert "It cannot become active" in after


def test_an_activated_draft_begins_anew(signed_in, person, clinician):
    version = activate_program(person, clinician)
    draft = now_on(person)
    assert (draft.past, draft.future) == ([], [])
    assert draft.began_as == version.program
    answer = edit(signed_in, person, draft.revision, edit="undo")
    assert answer.status_code == 422
    power = version.program.main_step.step_id
    did(signed_in, person, edit="set", step_id=power, key="rest_s", value="20")
    same = did(signed_in, person, edit="set", step_id=power, key="rest_s", value="15")
    assert "changed" not in re.sub(r"<title>.*?</title>", "", same)
    answer = signed_in.post(
        url("programs:activate", person.pk), {"revision": now_on(person).revision}
    )
    assert answer.status_code == 302
    assert ProgramVersion.objects.count() == 1


def test_a_base_that_cannot_be_read_takes_no_page_down(signed_in, person, draft):
    Draft.objects.filter(pk=draft.pk).update(base={"format": 99})
    page = signed_in.get(url("programs:bench", person.pk))
    assert page.status_code == 200
    power = step_named(draft, "Power notes").step_id
    answer = edit(signed_in, person, draft.revision, edit="as_before", step_id=power)
    assert answer.status_code == 422


def test_the_draft_of_another_is_not_reached(signed_in, other_clinic, person, draft):
    from tests.conftest import member

    stranger = member(other_clinic, "far@shore.example")
    theirs = enrol(other_clinic, stranger, name="Nobody Known")
    assert edit(signed_in, theirs, 1, edit="look").status_code == 404
