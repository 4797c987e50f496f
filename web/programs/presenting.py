"""How a step is presented at home, as it is set on the Bench."""

from collections.abc import Sequence

from django.utils.functional import Promise
from django.utils.translation import gettext_lazy

from core.catalogue.materials import sort_named, sorts
from core.plans.presentation import Feedback, Stress
from core.plans.step import Step

PRESENTED: dict[str, tuple[Promise, Sequence[tuple[str, str | Promise]]]] = {
    "material": (
        gettext_lazy("Words"),
        [
            ("", gettext_lazy("those of the task")),
            *((key, one.title) for key, one in sorts().items()),
        ],
    ),
    "stress": (
        gettext_lazy("Lean on"),
        [
            (Stress.NONE.value, gettext_lazy("no word")),
            (Stress.FIRST.value, gettext_lazy("the first word of a line")),
            (Stress.LAST.value, gettext_lazy("the last word of a line")),
        ],
    ),
    "feedback": (
        gettext_lazy("Picture"),
        [
            (Feedback.LIVE.value, gettext_lazy("while it is done")),
            (Feedback.THIRD.value, gettext_lazy("every third time")),
            (Feedback.AFTER.value, gettext_lazy("afterwards only")),
            (Feedback.OFF.value, gettext_lazy("never")),
        ],
    ),
}
"""How a step is presented at home, as it can be set: the setting, its name, its choices."""


def presented_choices(step: Step) -> list[tuple[str, str, list[tuple[str, str, bool]]]]:
    """The settings that make sense for a step, each with its choices and which one stands."""
    _key, sort = sort_named(step.task, step.presented.material)
    can = [*(["material", "stress"] if sort else []), *(["feedback"] if step.measured else [])]
    return [
        (
            which,
            str(PRESENTED[which][0]),
            [
                (code, str(words), code == getattr(step.presented, which))
                for code, words in PRESENTED[which][1]
            ],
        )
        for which in can
    ]
