"""What a step and each of its attempts ask for, in the client's words."""

from collections.abc import Mapping, Sequence
from datetime import date

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.catalogue.rungs import SemiOccludedForm
from core.catalogue.tasks import Task, in_the_day
from core.catalogue.words import TOLD_IN_WORDS, Growth
from core.kinds.registry import kind_of
from core.program.asked import asked_of, rest_after
from core.program.presentation import Position
from core.program.step import Step
from core.program.targets import Leg
from core.safety.stop import hurts
from web.design.drawings.movement import movement
from web.design.speaking import in_their_words
from web.design.templatetags.reed import compact
from web.kinds.registry import face_of
from web.practice.models import USUAL_TALK
from web.practice.player.spoken_lines import NOTHING_OWN, OwnLines, goes_out, said_lines
from web.practice.player.target_words import attempt_label

USUAL_TALK_S = 10.0


def step_data(
    step: Step,
    a4_hz: float,
    *,
    day: date,
    own: OwnLines = NOTHING_OWN,
    tasks: Mapping[str, Task],
    names_notes: bool = True,
) -> dict:
    """A step for the player on a day: plain data, everything it needs without the server. tasks: the clinic's
    catalogue; names_notes: whether the client may read which notes they are."""
    places = range(step.target.attempts)
    return {
        "step_id": step.step_id,
        "name": in_their_words(step.name),
        "kind": step.kind,
        "way": "measured" if step.measured else step.kind,
        "held": step.measured is not None and kind_of(step.measured).held,
        "voiced": step.voiced,
        "strong": step.level is not None,
        "later": in_the_day(step.task, tasks),
        "asked": "pain" if hurts(step) else "strain" if step.voiced else None,
        "sound": in_their_words(step.sound),
        "instruction": in_their_words(step.instruction),
        "caution": in_their_words(step.caution),
        "cue": cue_words(step, own.places),
        "effort": effort_words(step),
        "repetitions": step.repetitions,
        "said": said_lines(step, day, own),
        "picture": picture_of(step),
        "movement": str(movement(step.task, label=in_their_words(step.name))),
        "feedback": step.presented.feedback.value,
        "cues": cues_shown(step),
        "targets": [_target_data(step, place, a4_hz, names_notes=names_notes) for place in places],
    }


def picture_of(step: Step) -> str:
    """What is drawn while it is done, by its name in pictures.js."""
    if step.measured is None:
        return "clock" if step.target.by_clock else "entry" if step.target.legs(0) else "beads"
    strong = step.level is not None and step.target.form == "holds"
    return "strong" if strong else face_of(step.measured).picture


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
        "later": False,
        "asked": None,
        "sound": "",
        "instruction": _(
            "Put the device as far away as a ruler is long, 30 cm. Count as you usually talk, "
            "until it stops."
        ),
        "caution": _("Not stronger than usual: this is what strong is compared with."),
        "cue": "",
        "effort": "",
        "repetitions": 1,
        "said": [],
        "picture": "talk",
        "movement": "",
        "feedback": "live",
        "cues": [],
        "targets": [
            {
                "label": _("Count"),
                "note": "",
                "hz": None,
                "end_hz": None,
                "seconds": USUAL_TALK_S,
                "aim": "",
                "count": None,
                "legs": [],
                "beat_s": None,
                "swells": False,
                "rest_s": 5.0,
            }
        ],
    }


_FORMS: dict[str, Promise] = {
    SemiOccludedForm.AIR: gettext_lazy("Only air for now, without your voice."),
    SemiOccludedForm.NOTE: gettext_lazy("On one easy note."),
    SemiOccludedForm.UP: gettext_lazy("Slide up."),
    SemiOccludedForm.DOWN: gettext_lazy("Slide down."),
    SemiOccludedForm.UP_AND_DOWN: gettext_lazy("Slide up and down again."),
    SemiOccludedForm.THREE_RISES: gettext_lazy("Three small rises in one breath."),
    SemiOccludedForm.SWELL: gettext_lazy("On one note: soft, stronger, soft."),
    SemiOccludedForm.FIVE_NOTES: gettext_lazy("Five notes up and back."),
    SemiOccludedForm.OCTAVE_AND_NINTH: gettext_lazy("A long scale up and back."),
    SemiOccludedForm.TUNE: gettext_lazy("A short tune."),
    SemiOccludedForm.PHRASE: gettext_lazy("A phrase through it, then the same phrase open."),
}


def cues_shown(step: Step) -> list[bool]:
    """At which of the counted the cue helps: at each, at every second, at the first, at none."""
    count, grade = asked_of(step, 0).count, step.grade
    if count is None or grade is None or grade.growth is not Growth.CUE:
        return []
    every = {0: 1, 1: 2, 2: count}.get(grade.rung)
    return [every is not None and place % every == 0 for place in range(count)]


def cue_words(step: Step, places: Sequence[str] = ()) -> str:
    """How to sit or stand, how deep a tube goes, what the present rung asks for, the client's own places where it goes
    out into them, and the cue that worked in the visit, as said to the client; "" where there is nothing but the
    target."""
    parts = (
        _position(step),
        _depth(step),
        _rung_words(step),
        _where(step, places),
        step.presented.cue,
    )
    return " ".join(filter(None, parts))


def _depth(step: Step) -> str:
    if step.tube is None or not step.tube.depth_cm:
        return ""
    words = _("The end of the tube %(depth)s cm under the water, no deeper.")
    return words % {"depth": compact(step.tube.depth_cm)}


def _where(step: Step, places: Sequence[str]) -> str:
    if not places or not goes_out(step):
        return ""
    return _("Yours: %(places)s.") % {"places": ", ".join(places)}


def _rung_words(step: Step) -> str:
    """The form, the cue, the place, the beat; "" where the target says it."""
    grade = step.grade
    if grade is None:
        return ""
    if grade.growth is Growth.FORM:
        return str(_FORMS.get(grade.code, ""))
    if grade.growth in TOLD_IN_WORDS:
        return _("Now: %(cue)s") % {"cue": in_their_words(grade.words[grade.rung])}
    if grade.growth is Growth.BEATS_OUT:
        return _("Now: out over %(beats)s beats") % {"beats": compact(grade.value)}
    if grade.growth is Growth.TEMPO:
        return _("Now: %(tempo)s beats a minute") % {"tempo": compact(grade.value)}
    return ""


_POSITIONS: dict[str, Promise] = {
    Position.LYING: gettext_lazy("Lie down for it."),
    Position.SITTING: gettext_lazy("Sit for it."),
    Position.STANDING: gettext_lazy("Stand for it."),
}


def _position(step: Step) -> str:
    return str(_POSITIONS.get(step.presented.position, ""))


def _target_data(step: Step, place: int, a4_hz: float, *, names_notes: bool) -> dict:
    asked = asked_of(step, place)
    return {
        "label": attempt_label(step, place),
        "note": _note_words(step, place) if names_notes else "",
        "hz": asked.note.hz(a4_hz) if asked.note else None,
        "end_hz": asked.end.hz(a4_hz) if asked.end else None,
        "seconds": round(asked.seconds, 1),
        "aim": asked.aim,
        "count": asked.count,
        "legs": [_leg_data(leg, a4_hz) for leg in step.target.legs(place)],
        "beat_s": step.target.beat_s,
        "swells": step.target.swells,
        "rest_s": rest_after(step, place),
    }


def _leg_data(leg: Leg, a4_hz: float) -> dict:
    return {
        "doing": leg.doing.value,
        "seconds": round(leg.seconds, 3),
        "hz": round(leg.start.hz(a4_hz), 2) if leg.start else None,
        "end_hz": round(leg.end.hz(a4_hz), 2) if leg.end else None,
    }


def _note_words(step: Step, place: int) -> str:
    asked = asked_of(step, place)
    if asked.note is None:
        return ""
    return f"{asked.note} → {asked.end}" if asked.end else asked.note.name


def effort_words(step: Step) -> str:
    """How strong, as said to the client; "" where no strength is asked for."""
    level = step.level
    if level is None:
        return ""
    if level.over_db is not None:
        return _("Stronger than you usually talk.")
    values = {"low": level.effort_low, "high": level.effort_high}
    return _("Effort %(low)s to %(high)s of 10.") % values
