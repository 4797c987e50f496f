"""What the state of voice and airway, a cold, surgery, injections and unasked questions mean for a proposal.

A part of the oracle: written from the rules of the work and without any code of the product.
"""

from collections.abc import Iterator
from datetime import date, timedelta

from lab.bench.oracle_minutes import Data
from lab.bench.oracle_words import (
    BREATHING,
    LOUD,
    NECK,
    PRESSING,
    SOFT_AND_CLOSED,
    SPEAKING_ONLY,
    STRAWS,
    VOICELESS,
    WATER_TASKS,
)

FLAGS = {
    *("noisy_breathing", "blood", "fresh_haemorrhage", "painful_swallowing", "ear_pain"),
    *("neck_lump", "trouble_swallowing", "weight_loss", "sudden_loss", "recent_surgery"),
    *("smoking_hoarse", "face_or_speech_sudden"),
}


def day(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None


def present(said: Data) -> set[str]:
    """The red flags that were answered with yes."""
    return {flag for flag, yes in said["red_flags"].items() if yes}


def began_on(said: Data) -> date | None:
    if said["trouble_began_on"]:
        return day(said["trouble_began_on"])
    weeks = said["hoarse_weeks"]
    return (
        date.fromisoformat(said["asked_on"]) - timedelta(weeks=weeks) if weeks is not None else None
    )


def complains(said: Data, on: date) -> bool:
    if said["voice"] == "clear_again":
        first, clear = began_on(said), day(said["clear_since"])
        if first is None or clear is None:
            return True
        return not ((clear - first).days < 21 and (on - clear).days >= 2)
    return said["voice"] != "no_complaint"


def examined(said: Data, today: date) -> bool:
    seen = day(said["larynx_examined_on"])
    return (
        seen is not None
        and (began_on(said) or date.fromisoformat(said["asked_on"])) <= seen <= today
    )


def derived(client: Data) -> set[str]:
    """What follows from the answers without being ticked."""
    said = client["screening"]
    today, asked = date.fromisoformat(client["today"]), date.fromisoformat(said["asked_on"])
    found = set()
    if said["airway"] == "no_larynx":
        return {"no_larynx", *_swallowing(said, today, asked)}
    if said["airway"] == "tracheostomy":
        found.add("tracheostomy")
    if said["voice"] == "no_voice":
        found.add("no_voice")
    first = began_on(said)
    since = asked if (said["cold"] and said["hoarser"]) or first is None else first
    seen, usual = day(said["larynx_examined_on"]), day(said["usual_voice_since"])
    lifted = (seen and since <= seen <= today) or (usual and since <= usual < today)
    new = first is not None and complains(said, asked) and (asked - first).days < 21
    if not lifted:
        if said["cold"] and (said["hoarser"] or new):
            found.add("acute_laryngitis")
        elif new and said["cold"] is None:
            found.add("nothing_voiced")
        elif first and new and said["voice"] is not None and (asked - first).days > 1:
            found.add("acute_laryngitis")
    found |= _folds(said, today, asked)
    return found | _swallowing(said, today, asked)


def _folds(said: Data, today: date, asked: date) -> set[str]:
    if "fold_surgery" not in said["conditions"]:
        return set()
    operated = day(said["folds_operated_on"])
    released = day(said["released_on"])
    if released and (operated or asked) <= released <= today:
        return set() if said["release"] == "full" else {"gentle_only"}
    until = day(said["surgeons_date"])
    if until is None and operated:
        until = operated + timedelta(days=84)
    seen = day(said["larynx_examined_on"])
    if (until is None or today >= until) and seen and (operated or asked) <= seen <= today:
        return set()
    return {"nothing_voiced"}


def _swallowing(said: Data, today: date, asked: date) -> set[str]:
    answered = {"trouble_swallowing", "painful_swallowing"} <= set(said["red_flags"])
    injected, paralysed = day(said["botulinum_on"]), day(said["paralysis_since"])
    dry = False
    if injected:
        dry = today < injected + timedelta(days=14) or not (answered and asked > injected)
    if paralysed or "paralysis" in said["conditions"]:
        dry = dry or not (answered and (paralysed is None or asked >= paralysed))
    return {"dry"} if dry else set()


def of_state(client: Data, proposal: Data) -> Iterator[str]:
    """Yield every breach of the rules for the state of the voice and the airway."""
    said = client["screening"]
    if said is None:
        return
    found = derived(client)
    routines = proposal["program"]["routines"]
    short = [one["short_day"] for one in routines if one["short_day"]]
    steps = [*(step for one in routines for step in one["steps"]), *short]
    tasks = {step["task"] for step in steps}
    yield from _unasked(client, proposal, tasks)
    for step in steps:
        task, target = step["task"], step["target"]
        air = target["kind"] == "blow" or (target["kind"] == "timed" and target["air"])
        held = target["kind"] == "holds" and len(target["holds"]) == 1 and not target["swell"]
        silent = task in VOICELESS or (task in SOFT_AND_CLOSED and air)
        gentle = task in SOFT_AND_CLOSED and held
        if "nothing_voiced" in found and not silent:
            yield f"nothing may be voiced: {task}"
        if "gentle_only" in found and not (silent or gentle or task in ("hum_to_words", "ng_text")):
            yield f"released for gentle voicing only: {task}"
        if "no_voice" in found and not (silent or gentle or task == "easy_lead"):
            yield f"no voice: {task}"
        on_the_breath = task in BREATHING | STRAWS | NECK | SOFT_AND_CLOSED
        if "no_larynx" in found and task not in SPEAKING_ONLY and (on_the_breath or not silent):
            yield f"no larynx: {task}"
    if "tracheostomy" in found:
        forbidden = WATER_TASKS | STRAWS | PRESSING | NECK
        if tasks & forbidden or any(s["target"].get("last_puff") for s in steps):
            yield f"tracheostomy: {sorted(tasks & forbidden)}"
    operated = "fold_surgery" in said["conditions"] and _folds(
        said, date.fromisoformat(client["today"]), date.fromisoformat(said["asked_on"])
    )
    if operated and tasks & PRESSING:
        yield f"puffs on operated folds: {sorted(tasks & PRESSING)}"
    if "dry" in found and tasks & WATER_TASKS:
        yield "water where swallowing was not asked about"
    if "acute_laryngitis" in found:
        codes = {one["code"] for one in proposal["notices"]}
        if not any(code.startswith("found_laryngitis") for code in codes):
            yield "laryngitis is inferred and nobody is told"
    if "breathless" in said["conditions"]:
        yield from _breathless(client, steps, tasks)


def _unasked(client: Data, proposal: Data, tasks: set[str]) -> Iterator[str]:
    said, today = client["screening"], date.fromisoformat(client["today"])
    unasked = FLAGS - set(said["red_flags"])
    gone = said["airway"] == "no_larynx"
    shut = unasked or said["airway"] is None or (said["voice"] is None and not gone)
    if said["airway"] == "tracheostomy":
        dates = (said["cuff_safe_on"], said["valve_tolerated_on"], said["upper_airway_seen_on"])
        shut = shut or any(not one or date.fromisoformat(one) > today for one in dates)
        if not shut and not proposal["gate"]["needs_reason"]:
            yield "a tracheostomy without a written reason"
    shut = shut or (said["voice"] == "no_voice" and not gone and not examined(said, today))
    if (shut or (tasks & LOUD and not examined(said, today))) and not proposal["gate"]["blocks"]:
        yield f"the gate is open over what was not asked or examined: {sorted(unasked)}"


def _breathless(client: Data, steps: list[Data], tasks: set[str]) -> Iterator[str]:
    if tasks & PRESSING or any(s["target"].get("last_puff") for s in steps):
        yield f"breathless: {sorted(tasks & PRESSING)} or a last puff"
    for step in steps:
        if step["tube"] and max(step["tube"]["depth_cm"], step["tube"]["deepest_cm"]) >= 5:
            yield "breathless: deep water"
        if step["grade"] and {"bent_forward", "lying"} & set(step["grade"]["codes"]):
            yield "breathless: bent forward or lying"
        best = max(client["baseline"]["phonation_s"], default=None)
        target = step["target"]
        held = [hold["seconds"] for hold in target.get("holds", ())]
        held += [target["seconds"]] if target["kind"] == "glide" else []
        if best is not None and held and max(held) > max(0.8 * best, 0.5) + 1e-6:
            yield f"breathless: {step['task']} {max(held)} s with a best “ah” of {best} s"
