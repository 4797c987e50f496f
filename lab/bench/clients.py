"""Made-up clients of every kind, seeded: what a proposal may be asked for. Used by bench and tests."""

import random
from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

from core.catalogue.words import Aim, Equipment, Skill
from core.fitting.baseline_arithmetic import LungSex
from core.fitting.known import KnownBaseline, Limits, TrialOutcome
from core.fitting.schools import schools
from core.notes.note import Note
from core.notes.range import VoiceGroup
from core.program.program import Chosen
from core.proposing.aims import Want
from core.proposing.request import PitchDirection, PlanRequest, Wishes
from core.safety.circumstances import Circumstance, Event, Living
from core.safety.condition import FROM_THE_RECORD, Condition
from core.safety.screening import RedFlag, Screening
from core.safety.state import Airway, Release, VoiceState

TODAY = date(2026, 6, 15)


def made_up_client(seed: int) -> PlanRequest:
    """One client: ranges of 2–36 semitones, ages 5–100, holds of 0.5–60 s, much of it missing."""
    chance = random.Random(seed)
    age = chance.choice([chance.randint(5, 17), chance.randint(18, 100), chance.randint(18, 80)])
    return PlanRequest(
        today=TODAY,
        baseline=_baseline(chance, age),
        screening=_screening(chance) if chance.random() < 0.9 else None,
        living=_living(chance),
        schools=() if (wants := _wants(chance)) else _schools(chance),
        wants=wants,
        direction=chance.choice([None, *PitchDirection]),
        aims=tuple(chance.sample(list(Aim), 2)),
        tried={key: chance.choice(list(TrialOutcome)) for key in chance.sample(_TASKS, 3)},
        cannot=frozenset(s for s in Skill if chance.random() < 0.15),
        equipment=frozenset(e for e in Equipment if chance.random() < 0.5),
        hidden=frozenset(chance.sample(_TASKS, chance.choice([0, 0, 0, 3]))),
        limits=Limits(
            minutes_a_session=chance.choice([None, None, 5, 10, 15]),
            minutes_a_week=chance.choice([None, None, 30, 90, 300]),
            sessions_a_day=chance.choice([None, None, 1, 2]),
            breath_hold=chance.random() < 0.3,
        ),
        wishes=_wishes(chance),
        a4_hz=chance.choice([440.0, 440.0, 415.0, 442.0]),
        refresher=chance.random() < 0.3,
    )


_TASKS = sorted({spec.task for school in schools().values() for spec in school.steps})


def _baseline(chance: random.Random, age: int) -> KnownBaseline:
    group = VoiceGroup.CHILDREN if age < 13 else chance.choice([VoiceGroup.WOMEN, VoiceGroup.MEN])
    span = chance.choice([chance.randint(2, 9), chance.randint(8, 24), chance.randint(12, 36)])
    lowest = group.middle_c.number - chance.randint(0, 10)
    highest = min(lowest + span, 83)
    known = chance.random() < 0.95
    inside = range(lowest, highest + 1)
    best = chance.uniform(1.0, 40.0)
    probes = tuple(round(best * chance.uniform(0.4, 1.1), 1) for _ in range(3))
    return KnownBaseline(
        voice_group=group,
        age_years=age,
        lowest=Note(lowest) if known else None,
        highest=Note(highest) if known else None,
        transition=Note(chance.choice(inside)) if known and chance.random() < 0.5 else None,
        speaking=Note(chance.choice(inside)) if known and chance.random() < 0.7 else None,
        phonation_s=(round(best, 1), round(best * 0.9, 1)) if chance.random() < 0.85 else (),
        s_s=(round(chance.uniform(1, 60), 1),) if chance.random() < 0.8 else (),
        z_s=(round(chance.uniform(1, 40), 1),) if chance.random() < 0.6 else (),
        probes_s=tuple(max(p, 0.5) for p in probes) if chance.random() < 0.7 else (),
        height_cm=float(chance.randint(110, 200)) if chance.random() < 0.5 else None,
        lung_sex=chance.choice(list(LungSex)) if chance.random() < 0.5 else None,
        strong_s=(round(best * chance.uniform(0.5, 1.1), 1),) if chance.random() < 0.7 else (),
        reading_wpm=float(chance.randint(60, 220)) if chance.random() < 0.5 else None,
        throat_strain=chance.choice([None, chance.randint(0, 10)]),
        pitch_sd_semitones=chance.choice([None, 0.3]),
        strong_over_db=round(chance.uniform(-1, 18), 1) if chance.random() < 0.5 else None,
    )


def _screening(chance: random.Random) -> Screening:
    def day() -> date | None:
        return TODAY - timedelta(days=chance.randint(0, 400)) if chance.random() < 0.5 else None

    flags = frozenset(f for f in RedFlag if chance.random() < 0.03)
    unasked = frozenset(f for f in RedFlag if chance.random() < 0.01) - flags
    return Screening(
        **_state(chance, day),
        unasked=unasked,
        asked_on=TODAY - timedelta(days=chance.choice([0, 0, 3, 200])),
        larynx_examined_on=TODAY if chance.random() < 0.6 else day(),
        red_flags=flags,
        noted_on={
            f: TODAY - timedelta(days=chance.randint(0, 90))
            for f in sorted(flags)
            if chance.random() < 0.5
        },
        cleared_on=day(),
        cleared_from=day(),
        released_on=day(),
        folds_operated_on=day(),
        looked_at_on=day(),
        trouble_began_on=day(),
        hoarse_weeks=chance.choice([None, 1.0, 2.0, 12.0]),
        cold=chance.choice([*[False] * 8, True, None]),
        hoarser=chance.random() < 0.3,
        conditions=frozenset(
            c for c in Condition if c not in FROM_THE_RECORD and chance.random() < 0.08
        ),
        guardian_consent=True,
    )


def _state(chance: random.Random, day: Callable[[], date | None]) -> dict[str, Any]:
    """The state of voice and airway, surgeries and injections."""
    return {
        "voice": chance.choice([*[VoiceState.TROUBLED] * 7, *VoiceState, None]),
        "airway": chance.choice([*[Airway.LARYNX] * 12, *Airway, None]),
        "clear_since": day(),
        "usual_voice_since": day() if chance.random() < 0.2 else None,
        "release": chance.choice([*Release, None]),
        "surgeons_date": chance.choice([None, None, TODAY + timedelta(days=20)]),
        "cuff_safe_on": day(),
        "valve_tolerated_on": day(),
        "upper_airway_seen_on": day(),
        "botulinum_on": day() if chance.random() < 0.1 else None,
        "paralysis_since": day() if chance.random() < 0.1 else None,
        "throat_operated_on": day() if chance.random() < 0.2 else None,
        "movement_examined_on": day() if chance.random() < 0.3 else None,
        "voice_changing": chance.choice([True, False, None]),
    }


def _wants(chance: random.Random) -> tuple[Want, ...]:
    return (
        tuple(chance.sample(list(Want), chance.choice([1, 2, 3]))) if chance.random() < 0.3 else ()
    )


def _living(chance: random.Random) -> Living:
    return Living(
        circumstances=frozenset(one for one in Circumstance if chance.random() < 0.1),
        talking_hours=chance.choice([None, 2.0, 8.0]),
        events=tuple(
            Event(on=TODAY + timedelta(days=chance.randint(0, 30)), name="auction")
            for _ in range(chance.choice([0, 0, 1, 3]))
        ),
    )


def _schools(chance: random.Random) -> tuple[Chosen, ...]:
    if chance.random() < 0.1:
        return ()
    picked = chance.sample(list(schools().values()), chance.choice([1, 1, 2, 3]))
    return tuple(
        Chosen(
            school=school.key,
            options={
                choice.key: chance.choice([o for o in choice.options if o != "typed"])
                for choice in school.choices
            },
        )
        for school in picked
    )


def _wishes(chance: random.Random) -> Wishes:
    free = tuple(day for day in range(1, 8) if chance.random() < 0.8) or (3,)
    return Wishes(
        zone=chance.choice(["Europe/Dublin", "America/St_Johns", "Australia/Lord_Howe", "UTC"]),
        free_weekdays=chance.choice([None, free]),
    )
