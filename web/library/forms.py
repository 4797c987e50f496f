"""A task written or adapted by a clinic; what a task file holds, field by field."""

import re
from typing import Any

from django import forms
from django.utils.text import format_lazy
from django.utils.translation import gettext_lazy as _

from core.catalogue.doing import COUNTED, TIMED
from core.catalogue.tasks import Task, TaskFault, checked_task
from core.catalogue.touches import Touch
from core.catalogue.words import (
    AIM_WORDS,
    EQUIPMENT_WORDS,
    FAMILY_WORDS,
    SHOWN_BY_WORDS,
    SKILL_WORDS,
    TOLD_IN_WORDS,
    Growth,
)
from core.errors import PlanError

_KIND_WORDS = {
    TIMED: _("by the clock"),
    COUNTED: _("counted"),
}
TOUCH_WORDS = {
    Touch.BREATH_HOLD: _("holding the breath"),
    Touch.BALLOON: _("a balloon"),
    Touch.FORCEFUL_PUFFS: _("forceful puffs"),
    Touch.WATER: _("water at the mouth"),
    Touch.DEEP_WATER: _("water of 5 cm and deeper"),
    Touch.SIP: _("drinking"),
    Touch.NECK_HANDLING: _("hands on the neck"),
    Touch.JAW_HANDLING: _("hands on the jaw"),
    Touch.SUSTAINED: _("sustained notes"),
    Touch.LOUDNESS: _("loud speech"),
    Touch.RANGE: _("work at the ends of the range"),
    Touch.SEMI_OCCLUDED: _("semi-occluded voice"),
    Touch.LYING_FLAT: _("lying flat"),
    Touch.BENDING_FORWARD: _("bending forward"),
    Touch.STANDING: _("standing or walking"),
    Touch.NOTHING: _("none of these"),
}


def _text(label, *, rows: int = 2, required: bool = True, help_text="") -> forms.CharField:
    widget = forms.Textarea(attrs={"rows": rows})
    return forms.CharField(
        label=label, max_length=600, required=required, widget=widget, help_text=help_text
    )


def _many(label, words, *, required: bool = False) -> forms.MultipleChoiceField:
    choices = [(key.value if hasattr(key, "value") else key, word) for key, word in words.items()]
    return forms.MultipleChoiceField(
        label=label, choices=choices, required=required, widget=forms.CheckboxSelectMultiple
    )


class TaskForm(forms.Form):
    """The words of a task. How it is measured, its settings and rungs come from the task it was
    adapted from; a task from nothing is timed or counted."""

    name = forms.CharField(label=_("Name"), max_length=80)
    family = forms.ChoiceField(
        label=_("Family"),
        choices=[
            (key, format_lazy("{} · {}", key, words))
            for key, words in FAMILY_WORDS.items()
            if key != "J"
        ],
    )
    kind = forms.ChoiceField(
        label=_("How it is done"),
        choices=list(_KIND_WORDS.items()),
    )
    amount = forms.FloatField(
        label=_("Seconds, or how many times"), min_value=1, max_value=600, initial=30
    )
    sound = forms.CharField(label=_("Sound"), max_length=80, required=False)
    voiced = forms.BooleanField(label=_("Voiced"), required=False)
    purpose = _text(_("Purpose"))
    suits = _text(_("Whom it suits"))
    instruction = _text(
        _("Instruction for the client"), rows=4, help_text=_("Short sentences, plain words.")
    )
    clinician_note = _text(_("Note for the clinician"))
    caution = _text(_("Caution for the client"), help_text=_("When to stop."))
    fault = forms.CharField(label=_("A common fault"), max_length=200)
    shown_by = forms.ChoiceField(
        label=_("What shows it"), choices=[(k, v) for k, v in SHOWN_BY_WORDS.items()]
    )
    cue = forms.CharField(label=_("The cue for it"), max_length=200)
    aims = _many(_("Purposes"), AIM_WORDS, required=True)
    equipment = _many(_("Equipment"), EQUIPMENT_WORDS)
    skills = _many(_("The client must be able to"), SKILL_WORDS)
    touches = _many(_("What it involves (conditions may forbid it)"), TOUCH_WORDS, required=True)

    def __init__(self, *args, base: Task | None = None, **kwargs):
        super().__init__(*args, **kwargs)
        self.base = base
        if base is not None:
            del self.fields["kind"], self.fields["amount"], self.fields["family"]
            self.fields["touches"].required = False

    @property
    def family_letter(self) -> str:
        return self.base.family if self.base else self.cleaned_data["family"]

    def content(self) -> dict[str, Any]:
        """What a task file would hold; call after is_valid."""
        data = self.cleaned_data
        names = ("name", "sound", "purpose", "suits", "instruction", "clinician_note", "caution")
        words = {name: data[name] for name in names} | {"voiced": data["voiced"]}
        lists = {name: data[name] for name in ("aims", "equipment", "skills", "touches")}
        if self.base is not None:
            # An adapted task does not lose what its original touches: conditions still find it.
            lists["touches"] = _with_all(lists["touches"], self.base.touches)
        first = {name: data[name] for name in ("fault", "shown_by", "cue")}
        return words | lists | self._from_base(first)

    def _from_base(self, first: dict[str, str]) -> dict[str, Any]:
        base = self.base
        if base is None:
            return {"faults": [first], **self._done_by_itself()}
        others = [_fault_data(fault) for fault in base.faults[1:]]
        return {
            "kind": base.kind,
            "faults": [first, *others],
            "measured": list(base.measured),
            "counted": base.counted,
            "grows": base.grows.value,
            "rungs": _rungs_data(base),
            "rung_touches": [sorted(one) for one in base.rung_touches],
            "substitutes": list(base.substitutes),
            "set": {
                s.name: {"unit": s.unit, "low": s.low, "high": s.high, "default": s.default}
                for s in base.settings
            },
        }

    def _done_by_itself(self) -> dict[str, Any]:
        data, amount = self.cleaned_data, self.cleaned_data["amount"]
        if data["kind"] == TIMED:
            limits = {"unit": "s", "low": 3, "high": max(amount, 600), "default": max(amount, 3)}
            return {"kind": "timed", "set": {"seconds": limits}}
        limits = {"unit": "times", "low": 1, "high": 60, "default": min(amount, 60)}
        return {"kind": "counted", "counted": "times", "set": {"count": limits}}

    def clean(self):
        data = super().clean() or {}
        if Touch.NOTHING in data.get("touches", ()) and len(data["touches"]) > 1:
            self.add_error("touches", _("“None of these” does not go with others."))
        if self.errors:
            return data
        try:
            checked_task(self.family_letter, key_of(data["name"]), self.content())
        except PlanError as error:
            self.add_error(None, str(error.params["reason"]))
        return data


def _with_all(ticked: list[str], own: frozenset[Touch]) -> list[str]:
    found = {*ticked, *own}
    return sorted(found - {Touch.NOTHING} or {Touch.NOTHING.value})


def key_of(name: str) -> str:
    """A key from a name: small letters, digits and _, begun with a letter."""
    plain = re.sub(r"[^a-z0-9]+", "_", name.lower()).strip("_")
    return f"own_{plain}"[:60]


def initial_of(task: Task) -> dict[str, Any]:
    """The form filled with a task."""
    names = ("name", "sound", "purpose", "suits", "instruction", "clinician_note", "caution")
    first = _fault_data(task.faults[0]) if task.faults else {}
    lists = {
        name: [one.value for one in getattr(task, name)]
        for name in ("aims", "equipment", "skills", "touches")
    }
    lists["touches"] = lists["touches"] or [Touch.NOTHING.value]
    texts = {name: getattr(task, name) for name in names}
    return texts | lists | first | {"voiced": task.voiced, "family": task.family}


def _rungs_data(base: Task) -> dict[str, str] | list[str]:
    """As a task file holds them."""
    if base.grows in TOLD_IN_WORDS:
        return {rung.code: rung.words for rung in base.rungs}
    return [rung.code if base.grows is Growth.FORM else rung.words for rung in base.rungs]


def _fault_data(fault: TaskFault) -> dict[str, str]:
    return {"fault": fault.fault, "shown_by": fault.shown_by, "cue": fault.cue}
