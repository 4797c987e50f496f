"""How a step is presented at home: own phrases, the word leant on, the map, the movement, when it is seen."""

import uuid
from dataclasses import replace

import pytest
from django.urls import reverse

from core.catalogue.tasks import shipped_tasks
from core.editing.change_rung import on_rung
from core.errors import PlanError
from core.program.presentation import Feedback, Presentation, Stress
from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program
from web.clients.home.phrases import own_phrases
from web.clients.models import OwnPhrases
from web.clients.usecases.link import make_link
from web.design.drawings.movement import movement
from web.practice.player.bundle import bundle_of
from web.practice.player.step_words import step_data
from web.practice.usecases.open_session import open_session
from web.programs.models import Draft

pytestmark = pytest.mark.django_db


@pytest.fixture
def strong(person, clinician):
    return activate_program(person, clinician, schools=(Chosen(school="loudness_longest"),))


def typed(client, person, text):
    return client.post(reverse("clients:for_home", args=[person.pk]), {"phrases": text})


def step_named(version, task):
    return next(step for step in version.program.steps if step.task == task)


def shown(step):
    return step_data(step, 440.0, day=NOW.date(), tasks=shipped_tasks())


def test_what_the_client_really_says_is_practiced(signed_in, person, clinician, strong):
    said = [f"Two tickets for number {n}, please." for n in range(1, 11)]
    assert typed(signed_in, person, "\n".join([*said, "", said[0]])).status_code == 302
    assert own_phrases(person.pk) == said
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    session, _ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    steps = bundle_of(session, strong)["steps"]
    (own,) = [step for step in steps if step["name"] == "Your own everyday phrases"]
    lines = [line["words"] for turn in own["said"] for line in turn["lines"]]
    assert lines
    assert set(lines) <= set(said)


def test_the_word_that_is_to_be_stretched_is_marked(person, clinician):
    """ "Stretch the marked word": the last of each phrase, where the program names no other."""
    version = activate_program(person, clinician, schools=(Chosen(school="loudness_vowels"),))
    step = step_named(version, "stretched_words")
    for said, place in (
        (step, -1),
        (replace(step, presented=Presentation(stress=Stress.FIRST)), 0),
    ):
        for turn in shown(said)["said"]:
            for line in turn["lines"]:
                assert line["stress"] == range(len(line["words"].split()))[place]


@pytest.mark.parametrize("task", shipped_tasks().values(), ids=lambda task: task.key)
def test_whoever_speaks_of_a_marked_word_marks_one(task):
    assert task.leans_on or "marked word" not in task.instruction


def test_the_same_list_again_changes_nothing_and_the_former_stays(signed_in, person):
    for text in ("One.", "One.", "One.\nTwo."):
        typed(signed_in, person, text)
    kept = [row.phrases for row in OwnPhrases.objects.order_by("at", "pk")]
    assert sorted(kept, key=len) == [["One."], ["One.", "Two."]]


@pytest.mark.parametrize(
    "text", ["x" * 121, "\n".join(f"Phrase {n}." for n in range(61)), "a\0b", "y" * 9000]
)
def test_what_cannot_be_kept_is_said_and_nothing_is_lost(signed_in, person, text):
    typed(signed_in, person, "Good morning.")
    answer = typed(signed_in, person, text)
    assert answer.status_code == 422
    assert 'class="wrong"' in answer.content.decode()
    assert own_phrases(person.pk) == ["Good morning."]


def test_phrases_of_another_clinic_are_not_there(signed_in, other_clinic):
    from tests.conftest import enrol, member

    stranger = enrol(other_clinic, member(other_clinic, "x@elsewhere.example"))
    assert typed(signed_in, stranger, "Mine.").status_code == 404
    assert own_phrases(stranger.pk) == []


@pytest.mark.parametrize(
    ("stress", "at"), [(Stress.NONE, None), (Stress.FIRST, 0), (Stress.LAST, -1)]
)
def test_the_word_leant_on_is_marked(strong, stress, at):
    step = replace(step_named(strong, "own_phrases"), presented=Presentation(stress=stress))
    for turn in shown(step)["said"]:
        for line in turn["lines"]:
            words = line["words"].split(" ")
            assert line["stress"] == (
                None if at is None else words.index(words[at]) if at == 0 else len(words) - 1
            )


def test_another_material_can_be_named_and_an_unknown_one_not(strong):
    step = step_named(strong, "own_phrases")
    asked = shown(replace(step, presented=Presentation(material="questions")))
    assert all("?" in line["words"] for line in asked["said"][0]["lines"])
    with pytest.raises(PlanError, match="material_unknown"):
        Presentation(material="songs")


def test_when_the_picture_is_seen_goes_to_the_page(strong):
    step = strong.program.steps[0]
    assert shown(step)["feedback"] == "live"
    assert (
        shown(replace(step, presented=Presentation(feedback=Feedback.THIRD)))["feedback"] == "third"
    )


def test_the_way_to_describe_is_marked_on_a_map(strong):
    (turn,) = shown(step_named(strong, "map_route"))["said"]
    assert turn["map"].startswith("<svg")
    assert turn["round"]
    assert turn["lines"][0]["words"].startswith("Tell the way from the ")
    phrases = shown(step_named(strong, "own_phrases"))["said"]
    assert {one["map"] for one in phrases} == {""}


def test_every_task_of_the_body_has_its_own_picture():
    body = [key for key, task in shipped_tasks().items() if task.family == "A"]
    drawn = {movement(key, label=key) for key in body}
    assert len(drawn) == len(body) == 9
    assert "" not in drawn
    assert movement("sustained_power", label="x") == ""


def test_the_clinician_sets_it_on_the_bench(signed_in, person, clinician):
    activate_program(person, clinician, schools=(Chosen(school="loudness_longest"),))
    bench = reverse("programs:propose", args=[person.pk])
    signed_in.post(bench, {"school": ["loudness_longest"]})
    draft = Draft.objects.get(client=person)
    step = next(step for step in draft.program.steps if step.task == "own_phrases")

    def edit(which, value):
        draft.refresh_from_db()
        body = {"revision": draft.revision, "edit": "set", "step_id": step.step_id}
        body |= {"key": f"presented.{which}", "value": value}
        return signed_in.post(
            reverse("programs:edit", args=[person.pk]), body, content_type="application/json"
        )

    for which, value in (("stress", "last"), ("feedback", "third"), ("material", "questions")):
        assert edit(which, value).status_code == 200
    for which, value in (("stress", "middle"), ("feedback", "often"), ("material", "songs")):
        answer = edit(which, value)
        assert answer.status_code == 422
        assert value in answer.json()["message"]
    draft.refresh_from_db()
    kept = draft.program.step(step.step_id).presented
    assert (kept.stress, kept.feedback, kept.material) == ("last", "third", "questions")
    bench = reverse("programs:bench", args=[person.pk])
    page = signed_in.get(f"{bench}?step={step.step_id}").content.decode()
    assert '<option value="last" selected>' in page


def test_the_form_of_a_phrase_shows_phrases_and_no_other_form_does(person, clinician):
    version = activate_program(person, clinician, schools=(Chosen(school="semi_shallow"),))
    step = next(step for step in version.program.steps if step.grade and step.grade.codes)
    assert step.grade.codes[-1] == "phrase_then_open"
    last = on_rung(version.program, step.step_id, len(step.grade.rungs) - 1)
    said = shown(last.step(step.step_id))["said"]
    assert said
    assert all(line["words"] for turn in said for line in turn["lines"])
    assert shown(step)["said"] == []
