"""Why something could not be fitted, in words."""

from typing import Any

from core.errors import CoreError
from core.reason import Reason, Value, says, table_reason

_WORDS = {
    "range_missing": "no comfortable range is known",
    "range_too_small": "a range of {semitones} semitones is too small: even three notes need {needed}",
    "standard_outside": "the standard notes do not fit this range",
    "speaking_missing": "the habitual speaking pitch is not known",
    "probes_missing": "neither soft-hold probes nor a phonation time are known",
    "goal_missing": "what the hold goal is taken from was not measured",
    "hold_out_of_limits": "a hold of {seconds:g} s is not possible: {low:g}–{high:g} s",
    "breath_hold_off": "breath holds are off unless the clinician turns them on for this client",
    "breath_too_short": "the longest /s/ of {seconds:g} s is too short to count",
    "pattern_too_wide": (
        "the pattern spans {span} semitones, between floor and ceiling {ceiling} there are "
        "{semitones}"
    ),
    "target_outside": "{why}",
    "grading_rule_broken": "the rule “{rule}” cannot be so: {reason}",
    "number_unknown": "no rule has a number {path}; ./reed decide --numbers lists them",
    "glide_without_span": "the range is too small for a glide",
    "note_out_of_limits": "{name} lies outside what can be measured ({low}–{high})",
    "target_out_of_limits": "{which}: {came:g}, between {low:g} and {high:g}",
    "setting_unknown": "there is no {setting} to set here",
    "setting_unreadable": "{which}: “{came}” cannot be read",
    "cue_too_long": "a cue of {came} characters: at most {high}",
    "ladder_upside_down": "a ladder climbs: {after} does not come after {before}",
    "rung_not_in_ladder": "“{came}” is none of the rungs that were proposed",
    "ladder_of_targets": "each rung of {step} is a target of its own: take rungs out or put them back",
    "nothing_proposed": "it is not known what this draft began as",
    "last_key_stays": "a pattern needs at least one key",
    "last_rung_stays": "a ladder needs at least one rung",
    "day_out_of_reach": "{day} lies more than two years away",
    "place_unknown": "there is no such place in the sitting",
    "task_not_for_client": "{task}: {why}",
    "day_too_full": (
        "{wanted} home sessions a day do not fit outside the quiet hours, {spacing_h:g} h apart: "
        "{fit} fit"
    ),
    "no_free_day": "there is no free day in the week",
    "nothing_fits": "no task of these schools fits this client: {why}",
    "school_unknown": "“{came}” is no school; known: {known}",
    "option_unknown": "{which}: “{came}” is none of {known}",
    "note_unknown": "“{name}” is no note; write it like {example}",
    "range_upside_down": "the lowest note {lowest} is not below the highest {highest}",
    "note_outside_range": "the {which} note {note} lies outside {lowest}–{highest}",
    "flag_asked_and_not": "the red flag {flag} cannot be both present and not asked about",
    "direction_unasked": "nobody has asked which way the speaking pitch should go",
    "range_half_known": "lowest and highest comfortable note go together: one is missing",
    "age_out_of_limits": (
        "programs are proposed for clients of {low}–{high} years, not {came}: write one by hand"
    ),
    "calendar_upside_down": "{last} lies before {first}",
    "weekday_unknown": "{which}: weekdays are numbers {low}–{high}, each once",
    "weekdays_not_days_a_week": "{came} weekdays are named for {expected} days a week",
    "work_hours_upside_down": "working hours end before they begin, or one end is missing",
    "zone_unknown": "“{came}” is no time zone; write it like {example}",
    "dose_out_of_limits": "{which} is {came}: between {low} and {high}",
    "too_many_steps": "{came} steps: a program takes at most {high}",
    "step_twice": "two steps have the same id",
    "too_many_routines": "{came} routines: a program takes at most {high}",
    "routine_twice": "two routines have the same key",
    "routine_key_odd": "“{came}” is no key of a routine: small letters and _, such as “{example}”",
    "aims_broken": "the table of aims does not hold: {reason}",
    "routine_unknown": "there is no routine “{came}”: {known}",
    "format_unknown": "format {came}: this version reads formats 1 to {expected}",
    "material_unknown": "“{came}” is no sort of material: {known}",
    "program_empty": "a program needs at least one step",
    "rung_unknown": "rung {rung}: there are {rungs} rungs, counted from 0",
    "minutes_unreadable": "“{came}” is no number of minutes",
    "length_unreadable": "“{came}” is no length; write it like {example}",
    "grade_broken": "the rungs of a grade and their words must be as many",
    "step_without_target": "the target does not go with how the step is measured",
    "level_without_aim": "a level takes decibels or an effort from–to",
    "repetitions_out_of_limits": "{came} repetitions: between {low} and {high}",
    "rest_out_of_limits": "a rest of {seconds:g} s: between {low} and {high} s",
    "a4_out_of_limits": "A4 at {hz:g} Hz: between {low} and {high} Hz",
    "no_rung_left": "every rung of it is something this client must not do",
    "strong_missing": "the cued strong “ah” was not timed, and a plain one does not stand for it",
    "minutes_too_few": "{most:g} minutes are too few: the shortest that makes sense takes {least:.1f}",
    "rival_school": "it goes another way than “{other}”, which is in the program already",
    "a_number_out_of_limits": "{which} is {came:g}: between {low:g} and {high:g}",
    "degree_unknown": "degree {degree}: of the scale {known} are known",
}


_SAYINGS = {code: says(code, sentence) for code, sentence in _WORDS.items()}


def why_of(error: CoreError) -> Reason:
    """Why a core error came about, by its code."""
    saying = _SAYINGS.get(error.code)
    named = {name: error.params.get(name) for name in saying.names} if saying else {}
    if saying is None or any(value is None for value in named.values()):
        return table_reason(error.code, f"it cannot be fitted ({error.code})")
    plain = {name: _plain(value) for name, value in named.items()}
    return saying(**plain)


def _plain(value: Any) -> Value:
    return tuple(value) if isinstance(value, list) else value


def why_words(error: CoreError) -> str:
    """The reason of a core error as a part of a sentence; its code where there are no words."""
    return str(why_of(error))
