"""What a step and each of its attempts ask for, in the client's words."""

from django.utils.translation import gettext as _

from core.kinds.registry import kind_of
from core.plans.asked import asked_of, rest_after
from core.plans.step import Step
from core.plans.targets import Pace
from web.practice.models import USUAL_TALK
from web.practice.target_words import attempt_label

USUAL_TALK_S = 10.0


def step_data(step: Step, a4_hz: float) -> dict:
    """A step for the player: plain data, everything it needs without the server."""
    places = range(step.target.attempts)
    return {
        "step_id": step.step_id,
        "name": step.name,
        "kind": step.kind,
        "way": "measured" if step.measured else step.kind,
        "held": step.measured is not None and kind_of(step.measured).held,
        "voiced": step.voiced,
        "strong": step.level is not None,
        "sound": step.sound,
        "instruction": step.instruction,
        "caution": step.caution,
        "cue": cue_words(step),
        "effort": _effort(step),
        "repetitions": step.repetitions,
        "targets": [_target_data(step, place, a4_hz) for place in places],
    }


def usual_talk_data() -> dict:
    """The item before strong work on a device that has not heard usual talk yet."""
    return {
        "step_id": str(USUAL_TALK),
        "name": _("Your usual talk"),
        "kind": "level",
        "way": "measured",
        "held": False,
        "voiced": False,
        "strong": False,
        "sound": "",
        "instruction": _(
            "Put the device as far away as a ruler is long, 30 cm. Count as you usually talk, "
            "until it stops."
        ),
        "caution": _("Not stronger than usual: this is what strong is compared with."),
        "cue": "",
        "effort": "",
        "repetitions": 1,
        "targets": [
            {
                "label": _("Count"),
                "note": "",
                "hz": None,
                "end_hz": None,
                "seconds": USUAL_TALK_S,
                "aim": "",
                "count": None,
                "pace": None,
                "rest_s": 5.0,
            }
        ],
    }


def cue_words(step: Step) -> str:
    """What the present rung asks for, as said to the client: the form, the cue, the place."""
    form = {
        "air only": _("Only air for now, without your voice."),
        "one comfortable note": _("On one easy note."),
        "glide up": _("Slide up."),
        "glide down": _("Slide down."),
        "up and down": _("Slide up and down again."),
        "three rises in one breath": _("Three small rises in one breath."),
        "swell": _("On one note: soft, stronger, soft."),
        "five-note scale": _("Five notes up and back."),
        "octave-and-a-ninth scale": _("A long scale up and back."),
        "a tune": _("A short tune."),
        "a phrase, then open": _("A phrase through it, then the same phrase open."),
    }
    return form.get(step.cue) or (_("Now: %(cue)s") % {"cue": step.cue} if step.cue else "")


def _target_data(step: Step, place: int, a4_hz: float) -> dict:
    asked, target = asked_of(step, place), step.target
    return {
        "label": attempt_label(step, place),
        "note": _note_words(step, place),
        "hz": asked.note.hz(a4_hz) if asked.note else None,
        "end_hz": asked.end.hz(a4_hz) if asked.end else None,
        "seconds": round(asked.seconds, 1),
        "aim": asked.aim,
        "count": asked.count,
        "pace": {"in_s": target.in_s, "out_s": target.out_s} if isinstance(target, Pace) else None,
        "rest_s": rest_after(step, place),
    }


def _note_words(step: Step, place: int) -> str:
    asked = asked_of(step, place)
    if asked.note is None:
        return ""
    return f"{asked.note} → {asked.end}" if asked.end else asked.note.name


def _effort(step: Step) -> str:
    level = step.level
    if level is None:
        return ""
    if level.over_db is not None:
        return _("Stronger than you usually talk.")
    values = {"low": level.effort_low, "high": level.effort_high}
    return _("Effort %(low)s to %(high)s of 10.") % values
