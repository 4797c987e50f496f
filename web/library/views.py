"""The Library: list, search, filter; a task's page; add, adapt, hide."""

from django.contrib import messages
from django.http import Http404
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from core.catalogue.doing import ADVICE
from core.catalogue.materials import Turn, sort_of
from core.catalogue.reading import HARBOUR_MORNING
from core.catalogue.tasks import Task, shipped_tasks
from core.catalogue.words import (
    AIM_WORDS,
    EQUIPMENT_WORDS,
    FAMILY_WORDS,
    FIGURE_WORDS,
    SHOWN_BY_WORDS,
    SKILL_WORDS,
)
from core.errors import PlanError
from core.fitting.schools import schools
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.design.drawings.movement import movement
from web.design.drawings.town_map import town_map
from web.design.speaking import in_their_words
from web.library.forms import TaskForm, initial_of, key_of
from web.library.queries import (
    Filters,
    catalogue_of,
    cautions_of,
    hidden_keys,
    listed,
    schools_with,
    unreadable_tasks,
)
from web.library.usecases import tasks as usecases


@require_GET
def library(request):
    filters = Filters.of(request.GET)
    families = listed(request.clinic, filters)
    context = {
        "here": "library",
        "filters": filters,
        "families": families,
        "unreadable": unreadable_tasks(request.clinic),
        "count": sum(len(family.lines) for family in families),
        "hidden_count": len(hidden_keys(request.clinic)),
        "family_words": FAMILY_WORDS.items(),
        "aim_words": [(aim.value, words) for aim, words in AIM_WORDS.items()],
        "equipment_words": [(one.value, words) for one, words in EQUIPMENT_WORDS.items()],
        "passage": HARBOUR_MORNING,
    }
    return render(request, "library/library.html", context)


@require_GET
def school_list(request):
    """How the schools differ, side by side."""
    return render(
        request, "library/schools.html", {"here": "library", "schools": schools().values()}
    )


@require_GET
def task_page(request, key):
    task, catalogue = _task(request, key)
    context = {
        "here": "library",
        "task": task,
        "own": key not in shipped_tasks(),
        "hidden": key in hidden_keys(request.clinic),
        "family": FAMILY_WORDS[task.family],
        "aims": [AIM_WORDS[aim] for aim in task.aims],
        "equipment": [EQUIPMENT_WORDS[one] for one in sorted(task.equipment)],
        "skills": [SKILL_WORDS[one] for one in sorted(task.skills)],
        "measured": [FIGURE_WORDS[figure] for figure in task.measured],
        "faults": [(fault, SHOWN_BY_WORDS[fault.shown_by]) for fault in task.faults],
        "substitutes": [catalogue[other] for other in task.substitutes if other in catalogue],
        "cautions": cautions_of(task),
        "schools": schools_with(key),
        "turns": _turns(key),
        "movement": movement(key, label=in_their_words(task.name)),
        "advice": task.kind == ADVICE,
    }
    return render(request, "library/task.html", context)


def _turns(key: str) -> list[tuple[Turn, str]]:
    """What is read or said in a task, each with its map where one belongs to it."""
    sort = sort_of(key)
    label = _("Map of the town")
    return [
        (turn, town_map(turn.way, label=label, spoken=str) if turn.way else "")
        for turn in (sort.turns if sort else ())
    ]


@require_http_methods(["GET", "POST"])
def add_task(request):
    form = TaskForm(request.POST or None)
    return _written(request, form, key=None, adapted_from="", title=_("Add a task"))


@require_http_methods(["GET", "POST"])
def change_task(request, key):
    """Adapt a shipped task under another name, or change one of the clinic's own."""
    task, _catalogue = _task(request, key)
    if task.kind == ADVICE:
        messages.error(request, _("Advice is switched off or on; its words stay."))
        return redirect("library:task", key)
    own = key not in shipped_tasks()
    initial = initial_of(task) | ({} if own else {"name": f"{task.name} ({_('adapted')})"})
    form = TaskForm(request.POST or None, base=task, initial=initial)
    title = _("Change") if own else _("Adapt")
    return _written(
        request,
        form,
        key=key if own else None,
        adapted_from="" if own else key,
        title=f"{title}: {task.name}",
    )


def _written(request, form: TaskForm, *, key, adapted_from, title):
    if request.method == "POST" and form.is_valid():
        new = key or key_of(form.cleaned_data["name"])
        try:
            if key is None and new in catalogue_of(request.clinic):
                raise UsecaseRefused(_("There is a task of this name already: choose another."))
            usecases.save_task(
                request.clinic,
                key=new,
                family=form.family_letter,
                content=form.content(),
                adapted_from=adapted_from,
                by=request.user,
                now=clock.now(),
            )
        except UsecaseRefused as refused:
            form.add_error("name", refused.words)
        except PlanError as error:
            form.add_error(None, str(error.params.get("reason", error.code)))
        else:
            messages.success(request, _("Task “%(name)s” saved.") % form.cleaned_data)
            return redirect("library:task", new)
    status = 422 if form.errors else 200
    context = {"here": "library", "form": form, "title": title, "key": key or adapted_from}
    return render(request, "library/write.html", context, status=status)


@require_POST
def hide(request, key):
    """Hide or show a task; the answer is its page."""
    _task(request, key)
    hidden = not request.POST.get("show")
    usecases.set_hidden(request.clinic, key, hidden=hidden, by=request.user, now=clock.now())
    if hidden:
        messages.success(request, _("The task is hidden: no program is proposed with it."))
    else:
        messages.success(request, _("The task is used again."))
    return redirect("library:task", key)


def _task(request, key: str) -> tuple[Task, dict[str, Task]]:
    catalogue = catalogue_of(request.clinic)
    if key not in catalogue:
        raise Http404
    return catalogue[key], catalogue
