"""What a client's wants, age, strain and conditions may lead to. A part of the oracle: written from the
rules of the work and without any code of the product.
"""

from collections.abc import Iterator
from datetime import date, timedelta
from itertools import pairwise

from lab.bench.oracle_minutes import Data, session_minutes
from lab.bench.oracle_state import day
from lab.bench.oracle_words import (
    A_LITTLE,
    LETTERS,
    LOUD,
    MAJOR,
    PRESSING,
    SOFT_AND_CLOSED,
    SUSTAINED,
)

PITCHED = {"target_pitch_hold", "target_pitch_phrases"}
OCCLUDED = SOFT_AND_CLOSED | {"siren", "voice_reset", "occluded_to_open"}


def number(name: str) -> int:
    step = {"♯": 1, "#": 1, "♭": -1, "b": -1}.get(name[1], 0)
    return 12 * (int(name[-1]) + 1) + LETTERS[name[0]] + step


def of_wants(client: Data, proposal: Data) -> Iterator[str]:
    """Yield every breach of the rules for the client's goals, age, strain and conditions."""
    having = _having(client)
    program = proposal["program"]
    steps = [step for one in program["routines"] for step in one["steps"]]
    short = [one["short_day"] for one in program["routines"] if one["short_day"]]
    every = [*steps, *short]
    by_wants = not client["schools"]
    reasons = bool(proposal["gate"]["needs_reason"]) or client["screening"] is None
    yield from _pitch(client, having, every, reasons=reasons)
    said = client["screening"]
    if by_wants and said and said["airway"] == "no_larynx":
        yield "something came by itself without a larynx"
    loud = {step["task"] for step in every} & LOUD
    if loud and by_wants and "slowed_movement" not in having:
        yield f"strong voice came by itself: {sorted(loud)}"
    careful = {"strained", "paralysis", "throat_surgery", "muscle_tension", "under_12"}
    if loud and having & careful and not reasons:
        yield f"strong voice without a reason: {sorted(having & careful)}"
    if loud and having & {"motor_neurone", "myasthenia", "hurt"}:
        yield f"strong voice where it is blocked: {sorted(having)}"
    yield from _levels(client, every)
    yield from _progressive(client, proposal, having)
    if "hurt" in having:
        yield from _hurt(client, proposal, every)
    if having & {"dystonia", "tremor"}:
        deep = any(
            max(s["tube"]["depth_cm"], s["tube"]["deepest_cm"]) >= 5 for s in every if s["tube"]
        )
        if ({s["task"] for s in every} & SUSTAINED or deep) and (by_wants or not reasons):
            yield "holds or a deep tube with dystonia or tremor by themselves or without a reason"
        if any(one["code"] == "sz_ratio" for one in proposal["notices"]):
            yield "an s/z ratio is flagged with dystonia or tremor"
    yield from _minors(client, proposal)


def _having(client: Data) -> set[str]:
    said, known = client["screening"], client["baseline"]
    today = date.fromisoformat(client["today"])
    having = set(said["conditions"]) if said else set()
    if said and (operated := day(said["throat_operated_on"])):
        seen = day(said["movement_examined_on"])
        healed = (today - operated) >= timedelta(days=42)
        if seen and operated <= seen <= today and healed:
            having.discard("throat_surgery")
    if having & {"motor_neurone", "myasthenia"}:
        having.add("progressive")
    if (known["throat_strain"] or 0) >= 4:
        having |= {"strained"} | ({"hurt"} if "fold_lesions" in having else set())
    if known["age_years"] < 12:
        having.add("under_12")
    changing = said["voice_changing"] if said else None
    if 10 <= known["age_years"] <= 17 and changing is not False:
        having.add("changing")
    return having


def _pitch(client: Data, having: set[str], steps: list[Data], *, reasons: bool) -> Iterator[str]:
    pitched = [step for step in steps if step["task"] in PITCHED]
    asked = {one["options"].get("direction") for one in client["schools"]} | {client["direction"]}
    if pitched and not asked & {"up", "down"}:
        yield "a target pitch in a direction nobody was asked about"
    minor = client["baseline"]["age_years"] < 18
    if pitched and "changing" in having:
        yield "a target pitch while the voice is changing"
    if pitched and minor and not (reasons and client["schools"]):
        yield "a target pitch of a minor by itself or without a reason"
    for step in pitched:
        rungs = step["grade"]["rungs"]
        if rungs[-1] > rungs[0] and "testosterone" in having and not reasons:
            yield "upward on testosterone without a reason"
        if rungs[-1] < rungs[0] and rungs[-1] < number(client["baseline"]["lowest"]) + 3:
            yield "downward within three semitones of the lowest note"
        if any(abs(after - before) != 1 for before, after in pairwise(rungs)):
            yield "a target pitch jumps"


def _levels(client: Data, steps: list[Data]) -> Iterator[str]:
    effort = any(one["options"].get("aim") == "effort" for one in client["schools"])
    if client["baseline"]["strong_over_db"] is None or effort:
        return
    for step in steps:
        if step["level"] and step["level"]["over_db"] is None:
            yield f"{step['task']}: effort though a level was measured"


def _progressive(client: Data, proposal: Data, having: set[str]) -> Iterator[str]:
    routines = proposal["program"]["routines"]
    memory = "memory" in client["living"]["circumstances"]
    most = 3 if memory else 6 if "progressive" in having else 99
    for one in routines:
        voiced = [s for s in one["steps"] if s["voiced"]]
        if len(voiced) > most:
            yield f"{len(voiced)} voiced steps a session, {most} at most"
    if "progressive" not in having:
        return
    minutes = [(session_minutes(one["steps"]), one["dose"]) for one in routines]
    a_day = sum(length * dose["sessions_a_day"] for length, dose in minutes)
    limit = 10 if having & {"motor_neurone", "myasthenia"} else 30
    if a_day > limit + 0.06:
        yield f"progressive: {a_day:.1f} min a day, {limit} at most"
    most_weeks = 2 if client["refresher"] else 4
    for length, dose in minutes:
        of_the_day = length * dose["sessions_a_day"]
        for_good = dose["sessions_a_day"] <= 3 and dose["weeks"] == 26
        if dose["weeks"] > most_weeks and not (for_good and of_the_day <= 15.06):
            yield f"progressive: {dose['weeks']} weeks of {of_the_day:.1f} min a day"


def _hurt(client: Data, proposal: Data, steps: list[Data]) -> Iterator[str]:
    tasks = {step["task"] for step in steps}
    told = " ".join(one["words"] for one in proposal["program"]["left_out"])
    known = client["baseline"]["lowest"] is not None
    if known and not tasks & OCCLUDED and "emi-occluded" not in told:
        yield "hurt folds without semi-occluded work"
    if tasks & PRESSING or any(s["target"].get("last_puff") for s in steps):
        yield f"hurt folds: puffs {sorted(tasks & PRESSING)}"
    for routine in proposal["program"]["routines"]:
        for step in routine["steps"]:
            targets = [step["target"], *(step["grade"]["targets"] if step["grade"] else [])]
            for target in targets:
                if target["kind"] != "pattern" or step["phase"] != "range":
                    continue
                keys = [number(key) for key in target["keys"]]
                top = max(keys) + max(MAJOR[degree - 1] for degree in target["degrees"])
                low = number(client["baseline"]["lowest"])
                span = number(client["baseline"]["highest"]) - low
                if len(keys) > 12 or top > low + span * 2 / 3 + A_LITTLE:
                    yield f"hurt folds: {len(keys)} keys up to {top}"
                if routine["dose"]["sessions_a_day"] > 1:
                    yield "hurt folds: patterns more than once a day"


def _minors(client: Data, proposal: Data) -> Iterator[str]:
    age = client["baseline"]["age_years"]
    most = 10 if age < 12 else 15 if age < 16 else None
    if most is None:
        return
    lengths = [
        (session_minutes(one["steps"]), one["dose"]["sessions_a_day"])
        for one in proposal["program"]["routines"]
    ]
    longest = max(length for length, _times in lengths)
    if longest > most + 0.06:
        yield f"a minor of {age} practices {longest:.1f} min at once"
    if sum(length * times for length, times in lengths) > 2 * most + 0.1:
        yield f"a minor of {age} practices too long a day"
