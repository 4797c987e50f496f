"""What a proposal must never do, read off its JSON. Written from the rules of the work, on purpose
without any code of the product: it imports nothing of it, so a table that loses an entry is seen.

A client and a proposal are the plain data of `./reed propose --jobs`.
"""

import math
from collections.abc import Iterator
from datetime import date, timedelta
from statistics import median

from lab.bench.oracle_minutes import Data, minutes_of, session_minutes
from lab.bench.oracle_notices import of_notices
from lab.bench.oracle_state import complains, derived, of_state, present
from lab.bench.oracle_wants import of_wants
from lab.bench.oracle_words import (
    A_LITTLE,
    ARMS,
    BY_CLEARANCE,
    DRINKING,
    JAW,
    LETTERS,
    LOUD,
    MAJOR,
    NECK,
    NOSE,
    PRESSING,
    PRESSURE,
    READING,
    RIVALS,
    SOFT_AND_CLOSED,
    THINGS,
    VOICELESS,
    WATER_TASKS,
)

_SHUT_BY_STATE = {
    *("red_flags_unasked", "airway_unasked", "voice_unasked", "no_voice_unexamined"),
    *("tracheostomy_open", "strong_unexamined", "pitch_unexamined"),
}
"""Blocks that `oracle_state` asks for."""


def breaches(client: Data, proposal: Data) -> list[str]:
    """Every rule that a proposal breaks for its client, in words; none is the only good answer."""
    found: list[str] = []
    rules = (
        _gate,
        of_state,
        of_wants,
        of_notices,
        _conditions,
        _body,
        _minutes,
        _pitches,
        _seconds,
        _levels,
        _combined,
    )
    for rule in rules:
        found += rule(client, proposal)
    return found


def _steps(proposal: Data) -> list[Data]:
    routines = proposal["program"]["routines"]
    short = [one["short_day"] for one in routines if one["short_day"]]
    return [*(step for one in routines for step in one["steps"]), *short]


def _targets(step: Data) -> list[Data]:
    """The target and that of every later rung."""
    grade = step["grade"]
    return [step["target"], *(grade["targets"] if grade else [])]


def _day(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None


def _open_flags(client: Data) -> set[str]:
    """The red flags that nothing after them has opened."""
    said, today = client["screening"], date.fromisoformat(client["today"])
    asked = date.fromisoformat(said["asked_on"])
    still = set()
    for flag in present(said):
        noted = _day(said["noted_on"].get(flag)) or asked
        given = _day(said["cleared_on"]) or _day(said["cleared_from"])
        begins = _day(said["cleared_from"]) or _day(said["cleared_on"])
        if flag in BY_CLEARANCE:
            good = given and begins and noted <= given <= today and begins <= today
        elif flag == "face_or_speech_sudden":
            seen = _day(said["looked_at_on"])
            good = noted < asked and seen and noted <= seen <= asked and seen <= today
        else:
            key = "released_on" if flag == "recent_surgery" else "larynx_examined_on"
            seen = _day(said[key])
            good = seen and noted <= seen <= today
        if not good:
            still.add(flag)
    return still


def _gate(client: Data, proposal: Data) -> Iterator[str]:
    said, gate = client["screening"], proposal["gate"]
    if said is None:
        if not gate["blocks"]:
            yield "no screening, and the gate is open"
        return
    today, asked = date.fromisoformat(client["today"]), date.fromisoformat(said["asked_on"])
    flags = _open_flags(client)
    minor = client["baseline"]["age_years"] < 18
    rest = _day(said["voice_rest_until"])
    must = bool(flags) or (minor and not said["guardian_consent"]) or bool(rest and today < rest)
    if must and not gate["blocks"]:
        yield f"the gate is open over {sorted(flags) or 'consent or voice rest'}"
    causes = [one["code"] for one in gate["blocks"] if one["code"] not in _SHUT_BY_STATE]
    if not must and causes:
        yield f"the gate is closed without a cause: {causes}"
    weeks = said["hoarse_weeks"]
    began = _day(said["trouble_began_on"])
    if began is None:
        began = asked - timedelta(weeks=weeks) if weeks is not None else asked
    seen = _day(said["larynx_examined_on"])
    counts = seen is not None and began <= seen <= today
    fresh = seen is not None and (today - seen).days <= 182
    asked_for = said["airway"] != "no_larynx" and (present(said) or complains(said, today))
    if asked_for and not (counts and fresh) and not gate["needs_reason"]:
        yield "an examination that does not count asks for no reason"
    if (today - asked).days > 182 and not gate["needs_reason"]:
        yield "an old screening asks for no reason"


def _known(client: Data) -> set[str]:
    said = client["screening"]
    if said is None:
        return set()
    today, asked = date.fromisoformat(client["today"]), date.fromisoformat(said["asked_on"])
    known = set(said["conditions"])
    if {"painful_swallowing", "trouble_swallowing"} & present(said):
        known.add("unsafe_swallowing")
    released, operated = _day(said["released_on"]), _day(said["folds_operated_on"]) or asked
    if released and operated <= released <= today:
        known.discard("fold_surgery")
    return known | derived(client)


def _conditions(client: Data, proposal: Data) -> Iterator[str]:
    known = _known(client)
    steps, advice = _steps(proposal), {line["task"] for line in proposal["program"]["advice"]}
    tasks = {step["task"] for step in steps}
    tubes = [step["tube"] for step in steps if step["tube"]]
    puffs = any(t.get("last_puff") for s in steps for t in _targets(s))
    deep = any(max(tube["depth_cm"], tube["deepest_cm"]) >= 5 for tube in tubes)
    cues = {code for s in steps if s["grade"] for code in s["grade"]["codes"]}
    if known & PRESSURE and (tasks & PRESSING or puffs or deep):
        yield f"pressure: {sorted(tasks & PRESSING)} puffs {puffs} deep {deep}"
    if "latex_allergy" in known and "balloon" in tasks:
        yield "latex"
    dry = known & {"unsafe_swallowing", "fluid_limits"} or client["screening"] is None
    if dry and (tasks & WATER_TASKS or advice & DRINKING or any(t["depth_cm"] for t in tubes)):
        yield "water or a sip where swallowing is unsafe or not known"
    if known & {"unstable_neck", "carotid_disease"} and tasks & NECK:
        yield "hands on an unsafe neck"
    if "recent_jaw_surgery" in known and tasks & JAW:
        yield "hands on an operated jaw"
    flat = {"late_pregnancy", "breathless", "unsafe_swallowing"}
    if (known & flat or "lying_down" in client["cannot"]) and "lying" in cues:
        yield "told to lie flat"
    if known & (PRESSURE | {"fall_risk"}) and "bent_forward" in cues:
        yield "told to bend forward"
    if "fold_surgery" in known and tasks & LOUD:
        yield "loud after surgery of the folds"
    ask = PRESSURE | {"fold_lesions", "dystonia", "tremor", "ataxia"}
    if known & ask and tasks & LOUD and not proposal["gate"]["needs_reason"]:
        yield "loud without a written reason"
    if "acute_laryngitis" in known:
        yield from _laryngitis(steps, proposal)
    routines = proposal["program"]["routines"]
    if "progressive" in known and any(one["dose"]["taper"] for one in routines):
        yield "a taper with a progressive condition"


def _laryngitis(steps: list[Data], proposal: Data) -> Iterator[str]:
    for step in steps:
        target = step["target"]
        air = target["kind"] == "blow" or (target["kind"] == "timed" and target["air"])
        if step["task"] in VOICELESS or (step["task"] in SOFT_AND_CLOSED and air):
            continue
        held = target["kind"] == "holds" and len(target["holds"]) == 1 and not target["swell"]
        if step["task"] not in SOFT_AND_CLOSED or not held:
            yield f"laryngitis: {step['task']} is voiced"
    a_day, count = 0.0, 0
    for routine in proposal["program"]["routines"]:
        own = [s for s in routine["steps"] if s["task"] in SOFT_AND_CLOSED]
        count += len(own)
        a_day += sum(map(minutes_of, own)) * routine["dose"]["sessions_a_day"]
    if a_day > 5.05 + count * 0.5:  # rests between two of them belong to neither
        yield f"laryngitis: {a_day:.1f} min a day"


def _body(client: Data, proposal: Data) -> Iterator[str]:
    tasks, cannot = {step["task"] for step in _steps(proposal)}, set(client["cannot"])
    for skill, needing in (("reading", READING), ("nose_open", NOSE), ("raising_arms", ARMS)):
        if skill in cannot and tasks & needing:
            yield f"cannot {skill}: {sorted(tasks & needing)}"
    for skill in ("lip_trill", "tongue_trill"):
        if skill in cannot and skill in tasks:
            yield f"cannot {skill}"
    for thing, needing in THINGS.items():
        if thing not in client["equipment"] and tasks & needing:
            yield f"no {thing}: {sorted(tasks & needing)}"
    if tasks & set(client["hidden"]):
        yield "a hidden task"
    if any(client["tried"].get(task) == "worse" for task in tasks):
        yield "a task that made the voice worse"


def _minutes(client: Data, proposal: Data) -> Iterator[str]:
    program, limits = proposal["program"], client["limits"]
    sittings = [
        (session_minutes(one["steps"]), one["dose"]["sessions_a_day"], load["sessions_a_week"])
        for one, load in zip(program["routines"], proposal["load"]["routines"], strict=True)
    ]
    longest = max(minutes for minutes, _a_day, _a_week in sittings)
    week = sum(minutes * a_week for minutes, _a_day, a_week in sittings)
    if limits["minutes_a_session"] and longest > limits["minutes_a_session"] + 0.06:
        yield f"{longest:.1f} min a session of {limits['minutes_a_session']}"
    if limits["minutes_a_week"] and week > limits["minutes_a_week"] + 0.5:
        yield f"{week:.0f} min a week of {limits['minutes_a_week']}"
    a_day = sum(times for _minutes, times, _a_week in sittings)
    if limits["sessions_a_day"] and a_day > limits["sessions_a_day"]:
        yield "more sessions a day than allowed"
    for step in _steps(proposal):
        if step["task"] == "breath_hold":
            rungs = step["grade"]["rungs"]
            if not limits["breath_hold"] or max(rungs) > 15:
                yield "a breath hold that was not turned on, or over 15 s"
        tube = step["tube"]
        if tube and tube["depth_cm"] > min(tube["deepest_cm"], 5):
            yield "water deeper than home allows"


def _number(name: str) -> int:
    step = {"♯": 1, "#": 1, "♭": -1, "b": -1}.get(name[1], 0)
    return 12 * (int(name[-1]) + 1) + LETTERS[name[0]] + step


def _notes(target: Data) -> list[int]:
    kind = target["kind"]
    if kind == "holds":
        return [_number(hold["note"]) for hold in target["holds"]]
    if kind == "glide":
        return [_number(target["start"]), _number(target["end"])]
    if kind == "pattern":
        ups = [MAJOR[degree - 1] for degree in target["degrees"]]
        return [_number(key) + up for key in target["keys"] for up in ups]
    return [_number(target["note"])] if target.get("note") else []


def _pitches(client: Data, proposal: Data) -> Iterator[str]:
    known = client["baseline"]
    for step in _steps(proposal):
        notes = [note for target in _targets(step) for note in _notes(target)]
        if notes and known["lowest"] is None:
            yield f"{step['task']}: a note without a known range"
        elif notes:
            low, high = _number(known["lowest"]), _number(known["highest"])
            if min(notes) < low or max(notes) > min(high, 83):
                yield f"{step['task']}: outside the comfortable range"
            if step["target"]["kind"] == "pattern":
                yield from _pattern(step, known, low, high)


def _pattern(step: Data, known: Data, low: int, high: int) -> Iterator[str]:
    margin = 2 if high - low >= 8 else 1 if high - low >= 5 else 0
    first = _notes(step["target"])
    if max(first) > high - margin or min(first) < low + margin:
        yield f"{step['task']}: its first rung leaves the margin"
    if step["phase"] == "range" and step["task"] != "pattern_three" and len(first) == 0:
        yield f"{step['task']}: no key"
    ups = [MAJOR[degree - 1] for degree in step["target"]["degrees"]]
    keys = {_number(key) for key in step["target"]["keys"]}
    if keys != set(range(min(keys), max(keys) + 1)):
        yield f"{step['task']}: a key is left out"
    if "school" not in step and min(keys) != low + margin and step["phase"] == "range":
        yield f"{step['task']}: not down to the floor"
    if known["transition"] is None and max(keys) + max(ups) > high:
        yield f"{step['task']}: above the range"


def _seconds(client: Data, proposal: Data) -> Iterator[str]:
    known = client["baseline"]
    shown = [*known["phonation_s"], *known["probes_s"], *known["strong_s"]]
    most = max([*shown, 0.5]) if shown else None
    best_s = max(known["s_s"], default=None)
    for step in _steps(proposal):
        target, grade = step["target"], step["grade"]
        voiced = [hold["seconds"] for hold in target.get("holds", ())]
        voiced += [target["seconds"]] if target["kind"] == "glide" else []
        if most is not None and voiced and max(voiced) > most + A_LITTLE:
            yield f"{step['task']}: {max(voiced)} s, shown {most} s"
        if grade and grade["rung"] != 0:
            yield f"{step['task']}: not on its first rung"
        if step["task"] in ("loud_vowels", "loud_ah"):
            yield from _strong(step, known, _breath_limit(client))
        if step["task"] in ("sustained_power", "sustained_warm_up") and known["probes_s"]:
            yield from _ladder(step, known["probes_s"])
        if target["kind"] == "pace" and best_s is not None:
            beats = [target["beats_out"], *(grade["rungs"] if grade else ())]
            if max(beats) * 60 / target["tempo_bpm"] > best_s + A_LITTLE:
                yield f"{step['task']}: breath out longer than the own /s/"
        hissed = step["task"] in ("hiss", "straw_hiss", "hiss_swell") and best_s is not None
        if (
            hissed
            and best_s
            and max([target["seconds"], *grade["rungs"]]) > max(min(1.1 * best_s, 60), 0.5)
        ):
            yield f"{step['task']}: over 110 % of the own /s/"
    best = max(known["phonation_s"], default=None)
    flagged = any(one["code"] == "short_phonation" for one in proposal["notices"])
    if best is not None and known["age_years"] >= 18 and (best < 10) is not flagged:
        yield "a short “ah” of an adult is not flagged, or a long one is"


def _halves(seconds: float) -> float:
    return math.floor(seconds * 2 + 1e-9) / 2


def _breath_limit(client: Data) -> float:
    """Of who is breathless, the longest first hold: 80 % of the best “ah”."""
    best = max(client["baseline"]["phonation_s"], default=None)
    having = client["screening"]["conditions"] if client["screening"] else ()
    return 0.8 * best if best is not None and "breathless" in having else math.inf


def _strong(step: Data, known: Data, most: float) -> Iterator[str]:
    strong = max(known["strong_s"], default=None)
    if strong is None:
        yield f"{step['task']}: no strong “ah” was timed"
        return
    cap = 10 if step["task"] == "loud_vowels" else max(strong, 0.5)
    first = max(_halves(min(0.8 * max(strong, 0.5), cap, most)), 0.5)
    if abs(step["target"]["holds"][0]["seconds"] - first) > A_LITTLE:
        yield f"{step['task']}: {step['target']['holds'][0]['seconds']} s, not {first} s"


def _ladder(step: Data, probes: list[float]) -> Iterator[str]:
    first = max(_halves(min(0.8 * median(probes), min(probes))), 0.5)
    rungs = step["grade"]["rungs"]
    if rungs[0] > first + A_LITTLE:
        yield f"{step['task']}: first rung {rungs[0]}, probes allow {first}"


def _levels(client: Data, proposal: Data) -> Iterator[str]:
    shown = client["baseline"]["strong_over_db"]
    for step in _steps(proposal):
        over = (step["level"] or {}).get("over_db")
        if over is None:
            continue
        if shown is None:
            yield f"{step['task']}: a level though none was measured"
            continue
        most = max(min(shown, 20), 0)
        strong = step["task"] in ("loud_vowels", "loud_ah", "loud_glides")
        due = min(max(shown - 2, 3), most) if strong else min(3, most)
        if abs(over - max(due, 0)) > 0.06:
            yield f"{step['task']}: + {over} dB, due {due}"
        grade = step["grade"]
        if grade and grade["growth"] == "decibels" and max(grade["rungs"]) > most + 0.06:
            yield f"{step['task']}: its ladder ends at {max(grade['rungs'])} of {most} dB"


def _combined(_client: Data, proposal: Data) -> Iterator[str]:
    program = proposal["program"]
    for routine in program["routines"]:
        tasks = [step["task"] for step in routine["steps"]]
        if len(tasks) != len(set(tasks)):
            yield "a task stands twice"
    names = {one["school"] for one in program["schools"]}
    for rivals in RIVALS:
        if rivals <= names:
            yield f"rivals together: {sorted(rivals)}"
    said = " ".join(
        one["words"] for one in (*program["reasons"], *program["assumed"], *program["asked"])
    )
    if "none" in said.split():
        yield "a sentence says none"
    for line in program["advice"]:
        if line["task"] == "care_before_event" and "mixed" not in line["words"]:
            yield "advice of mixed evidence does not say so"
