"""The Library: list, search, filter, a task's page, own and hidden tasks; nothing of another clinic."""

import pytest
from django.urls import reverse

from core.catalogue.tasks import shipped_tasks
from core.errors import PlanError
from tests.conftest import NOW, baseline_of, member
from tests.factories.library import adapted, page
from web.clinic.refusal import UsecaseRefused
from web.library.models import ClinicTask, HiddenTask
from web.library.queries import Filters, catalogue_of, listed, proposed_from
from web.library.usecases.tasks import save_task, set_hidden
from web.programs.models import Draft

pytestmark = pytest.mark.django_db
NEW = {
    "name": "Bell hum",
    "family": "K",
    "kind": "timed",
    "amount": "40",
    "sound": "mmm",
    "voiced": "on",
    "purpose": "Wake the voice with the harbour bell.",
    "suits": "Everybody.",
    "instruction": "Hum one low note. Let it ring like the bell.",
    "clinician_note": "Made up for this clinic.",
    "caution": "Stop if it hurts.",
    "fault": "Too loud",
    "shown_by": "heard",
    "cue": "A bell far away.",
    "aims": ["ease"],
    "touches": ["semi_occluded"],
}


def found(clinic, **asked):
    families = listed(clinic, Filters.of(asked))
    return {line.task.key for family in families for line in family.lines}


def test_every_shipped_task_is_listed_and_has_a_page(signed_in, clinic):
    html = page(signed_in).content.decode()
    for key, task in shipped_tasks().items():
        assert task.name in html or task.name.replace("'", "&#x27;") in html
        answer = page(signed_in, "task", key)
        assert answer.status_code == 200
        assert task.family in answer.content.decode()
    assert page(signed_in, "task", "juggling").status_code == 404


def test_search_and_filters_narrow_the_list(clinic):
    assert found(clinic, find="straw WATER") == {"straw_water"}
    assert found(clinic, family="D") == {k for k, t in shipped_tasks().items() if t.family == "D"}
    assert "hiss" in found(clinic, aim="breath")
    assert "lip_trill" not in found(clinic, aim="breath")
    assert found(clinic, equipment="balloon") == {"balloon"}
    assert "hum" in found(clinic, equipment="none")
    assert "straw_air" not in found(clinic, equipment="none")
    odd = {"family": "Z", "aim": "fame", "equipment": "trombone"}
    assert len(found(clinic, **odd)) == len(shipped_tasks())


def test_a_search_without_a_result_says_so(signed_in):
    assert "No task fits this search" in page(signed_in, find="zeppelin").content.decode()


def test_a_task_page_says_what_is_blocked_and_where_it_stands(signed_in):
    html = page(signed_in, "task", "straw_water").content.decode()
    assert "Limits on fluids, Unsafe swallowing" in html
    assert "lift the soft palate" in html
    assert "Semi-occluded, shallow first" in html
    neck = page(signed_in, "task", "neck_side_stretch").content.decode()
    assert "Carotid disease" in neck


def test_the_schools_are_told_apart_in_words(signed_in):
    html = page(signed_in, "schools").content.decode()
    assert "Airflow goal" in html
    assert "Semi-occluded, deep" in html


def test_a_clinic_adds_a_task_of_its_own(signed_in, clinic, other_clinic):
    answer = signed_in.post(reverse("library:add"), NEW)
    assert answer.status_code == 302
    task = catalogue_of(clinic)["own_bell_hum"]
    assert (task.name, task.setting("seconds").default) == ("Bell hum", 40)
    assert "own_bell_hum" not in catalogue_of(other_clinic)
    assert "Bell hum" in page(signed_in, find="bell").content.decode()
    again = signed_in.post(reverse("library:add"), NEW)
    assert again.status_code == 422
    assert "already" in again.content.decode()
    assert ClinicTask.objects.count() == 1


@pytest.mark.parametrize(
    "odd",
    [
        {"name": ""},
        {"caution": ""},
        {"aims": []},
        {"aims": ["fame"]},
        {"amount": "0"},
        {"amount": "nan"},
        {"kind": "hold"},
        {"family": "J"},
        {"instruction": "x" * 700},
    ],
)
def test_an_impossible_task_is_refused_at_its_field_and_nothing_is_lost(signed_in, odd):
    answer = signed_in.post(reverse("library:add"), NEW | odd)
    assert answer.status_code == 422
    assert "wrong" in answer.content.decode()
    assert "Made up for this clinic." in answer.content.decode()
    assert not ClinicTask.objects.exists()


def test_a_shipped_task_is_adapted_and_stays_itself(signed_in, clinic):
    answer = adapted(signed_in, name="Short straw", instruction="Hum through the short straw.")
    assert answer.status_code == 302
    own, shipped = catalogue_of(clinic)["own_short_straw"], catalogue_of(clinic)["straw_air"]
    assert own.instruction == "Hum through the short straw."
    assert (own.kind, own.rungs, own.touches) == (shipped.kind, shipped.rungs, shipped.touches)
    assert shipped == shipped_tasks()["straw_air"]
    assert ClinicTask.objects.get().adapted_from == "straw_air"
    changed = adapted(signed_in, "own_short_straw", caution="Stop sooner.")
    assert changed.status_code == 302
    assert catalogue_of(clinic)["own_short_straw"].caution == "Stop sooner."
    assert ClinicTask.objects.count() == 1


def test_an_adapted_task_keeps_what_its_original_touches(signed_in, clinic):
    answer = adapted(
        signed_in, "straw_water", name="Bay straw", touches=[], equipment=["thin_straw"]
    )
    assert answer.status_code == 302
    assert catalogue_of(clinic)["own_bay_straw"].touches == shipped_tasks()["straw_water"].touches


def test_a_glass_of_water_means_water(signed_in):
    answer = signed_in.post(reverse("library:add"), NEW | {"equipment": ["glass_of_water"]})
    assert answer.status_code == 422
    assert "glass_of_water means water" in answer.content.decode()


def test_advice_is_switched_off_but_not_rewritten(signed_in):
    assert page(signed_in, "change", "care_water").status_code == 302


def test_hiding_twice_and_showing_again(signed_in, clinic):
    address = reverse("library:hide", args=["lip_trill"])
    for _ in range(2):
        assert signed_in.post(address).status_code == 302
    assert HiddenTask.objects.count() == 1
    assert "lip_trill" not in found(clinic)
    assert "lip_trill" in found(clinic, hidden="on")
    signed_in.post(address, {"show": "yes"})
    assert "lip_trill" in found(clinic)


def test_a_hidden_task_with_an_adapted_one_comes_back_as_the_adapted_one(
    signed_in, clinic, person, clinician
):
    baseline_of(person, clinician)
    adapted(signed_in, "shoulder_rolls", name="Deck shoulder rolls")
    signed_in.post(reverse("library:hide", args=["shoulder_rolls"]))
    assert proposed_from(clinic)["shoulder_rolls"].substitutes[0] == "own_deck_shoulder_rolls"
    bench = reverse("programs:propose", args=[person.pk])
    assert signed_in.post(bench, {"school": ["warm_up"]}).status_code == 302
    tasks = [step.task for step in Draft.objects.get().program.steps]
    assert "own_deck_shoulder_rolls" in tasks
    assert "shoulder_rolls" not in tasks


def test_the_clinic_of_another_sees_nothing_of_it(signed_in, client, clinic, other_clinic):
    signed_in.post(reverse("library:add"), NEW)
    signed_in.post(reverse("library:hide", args=["hum"]))
    client.force_login(member(other_clinic, "far@shore.example"))
    assert page(client, "task", "own_bell_hum").status_code == 404
    assert client.post(reverse("library:hide", args=["own_bell_hum"])).status_code == 404
    assert "hum" in found(other_clinic)
    assert found(None) == set(shipped_tasks())


def test_what_a_task_of_the_clinic_may_not_be(clinic, clinician):
    content = ClinicTaskContent.of("hum")
    for refused in (
        {"key": "hum", "content": content},
        {"key": "own_hum", "content": content | {"substitutes": ["own_hum"]}},
        {"key": "own_hum", "content": ClinicTaskContent.of("care_sleep")},
    ):
        with pytest.raises(UsecaseRefused):
            save_task(clinic, family="C", adapted_from="", by=clinician, now=NOW, **refused)
    with pytest.raises(PlanError):
        save_task(
            clinic, key="own_hum", family="C", content={}, adapted_from="", by=clinician, now=NOW
        )
    with pytest.raises(UsecaseRefused):
        set_hidden(clinic, "juggling", hidden=True, by=clinician, now=NOW)


class ClinicTaskContent:
    """What a task file holds of a shipped task."""

    @staticmethod
    def of(key):
        import tomllib
        from pathlib import Path

        from core.catalogue import tasks

        for file in Path(tasks.__file__).parent.glob("[a-k]_*.toml"):
            table = tomllib.loads(file.read_text(encoding="utf-8"))
            if key in table:
                return table[key]
        raise KeyError(key)
