"""One example of every school worked by hand; the client is the worked case unless said otherwise."""

from dataclasses import replace

import pytest

from core.catalogue.tasks import shipped_tasks
from core.errors import PlanError
from core.fitting.schools import school_of, schools
from core.program.step import Phase
from tests.core.fitted import propose_for, proposed, request, said, step

NINE = {"speaking": "A3"}  # her comfortable speaking note, a tone above the lowest


def names(notes):
    return [note.name for note in notes]


def test_release_takes_both_sides_and_ends_in_a_sigh():
    found = proposed("release")
    # 2·30 + 30 + 2·20 + 40 + 30 + 4·6 s of doing, 5 rests of 5 s between six steps: 249 s
    assert found.load.routines[0].session_min == pytest.approx(249 / 60)
    assert [s.task for s in found.program.steps][-1] == "easy_sigh"
    assert step(found, "shoulder_circle").target.seconds == 60


def test_breath_on_beats_begins_with_four():
    paced = step(proposed("breath_beats"), "paced_breath")
    # at 100 beats/min a beat is 0.6 s: out 4 = 2.4 s, 8 = 4.8, 12 = 7.2; 110 % of /s/ 17.6 = 19.4
    assert (paced.target.beats_out, paced.target.out_s) == (4, pytest.approx(2.4))
    assert paced.grade.rungs == (4, 8, 12)
    assert paced.grade.words[2] == "out 12 beats = 7.2 s"


def test_breath_on_beats_is_shorter_for_a_short_breath():
    paced = step(proposed("breath_beats", known={"s_s": (2.0,)}), "paced_breath")
    # 2.0 s ÷ 0.6 s = 3 whole beats; 4 beats = 2.4 s are over 110 % of 2.0 s = 2.2 s
    assert paced.target.beats_out == 3
    assert paced.grade.rungs == (3,)
    assert said([paced.target.because], "fewer_beats_out").params["wanted"] == 4


def test_breath_in_counts_of_ten_stops_where_the_breath_does():
    found = proposed("breath_counts")
    # at 120 beats/min a count is 0.5 s: 10 = 5 s, 20 = 10 s, 30 = 15 s, all within 19.4 s
    assert step(found, "counted_breath").grade.rungs == (10, 20, 30)
    short = proposed("breath_counts", known={"s_s": (9.5,)})
    # 20 counts are 10 s, longer than the own 9.5 s: 10 counts = 5 s fit
    assert step(short, "counted_breath").grade.rungs == (10,)
    assert step(found, "puffed_breath").target.last_puff


def test_the_hiss_ladder_never_passes_110_percent():
    fives = step(proposed("breath_hiss"), "hiss")
    # 80 % of 17.6 = 14.08 → 14.0 (15 is not within reach); 110 % = 19.36 → 19.0
    assert fives.grade.rungs == (14.0, 15.0, 19.0)
    long = step(proposed("breath_hiss", known={"s_s": (70.0,)}), "hiss")
    # 80 % of 70 = 56 → the ladder's 55; 110 % = 77, but no hiss is longer than 60 s
    assert long.grade.rungs == (55.0, 60.0)
    thirties = step(
        proposed("breath_hiss", known={"s_s": (50.0,)}, options={"ladder": "thirties"}), "hiss"
    )
    # 80 % of 50 = 40 → 30 of the ladder; 110 % = 55
    assert thirties.grade.rungs == (30.0, 55.0)
    assert thirties.repetitions == 3


def test_puffs_and_paired_counting():
    counting = step(proposed("breath_support"), "paired_counting")
    assert (counting.target.count, counting.target.unit) == (20, "pairs")
    assert counting.grade.codes[0] == "cue_on_every_pair"
    assert counting.grade.codes[-1] == "in_talk"


def test_semi_occluded_for_tension_is_shallow():
    straw = step(proposed("semi_shallow", known=NINE), "straw_water")
    assert (straw.tube.depth_cm, straw.tube.deepest_cm) == (1.0, 3.0)
    assert straw.grade.code == "air_only"
    # G3–G4 less 2 semitones at each end is A3–F4; glides stay inside
    up = straw.grade.targets[straw.grade.codes.index("glide_up")]
    assert (up.start.name, up.end.name, up.seconds) == ("A3", "F4", 7.0)
    # 7 s wanted, 80 % of 9.4 s = 7.52 s: within reach
    scale = straw.grade.targets[straw.grade.codes.index("five_note_scale")]
    # a fifth is 7 semitones, A3 + 7 = E4: fits under F4
    assert names(scale.in_key(scale.keys[0]))[4] == "E4"
    # an octave and a ninth is 14 semitones, A3–F4 has 8: left out of the lip trill, and said
    left_out = said(proposed("semi_shallow").program.reasons, "form_left_out")
    assert left_out.params["form"] == "octave-and-a-ninth scale"


def test_semi_occluded_for_insufficiency_is_deeper_within_the_home_limit():
    tube = step(proposed("semi_deep", known=NINE), "wide_tube_water").tube
    assert (tube.depth_cm, tube.deepest_cm) == (3.0, 5.0)
    # 3 cm of water + a little for 35 cm of 10 mm bore at 290 mL/s (2727 mL ÷ 9.4 s)
    assert tube.flow_ml_s == 290
    assert 3.0 < tube.back_pressure_cmh2o < 3.6


def test_semi_occluded_for_the_tired_voice_has_no_scales_at_first():
    found = proposed("semi_fatigue", known=NINE)
    assert [s.task for s in found.program.steps] == ["straw_air", "hum", "siren"]
    # 60 s of small circles, not the usual 120
    assert step(found, "siren").target.seconds == 60


def test_semi_occluded_for_performers_starts_on_a_note():
    found = proposed("semi_performer", known=NINE | {"lowest": "E3", "highest": "C5"})
    trill = step(found, "lip_trill")
    # one note at 5 s (80 % of 9.4 = 7.52); E3–C5 less 2 = F♯3–B♭4, 16 semitones: the 14 fit
    assert trill.holds[0].seconds == 5.0
    assert "octave-and-a-ninth scale" in trill.grade.words


def test_resets_lie_within_working_hours():
    from datetime import time

    from core.dose.calendar import times_of_day
    from core.proposing.request import Wishes

    found = proposed("semi_reset", wishes=Wishes(work_from=time(9), work_to=time(17)))
    dose = found.program.routines[0].dose
    # four a day, 1.5 h apart, 9:00–17:00
    assert (dose.sessions_a_day, dose.days_a_week) == (4, 5)
    times = times_of_day(dose, 4)
    assert all(time(9) <= at < time(17) for at in times)
    # 25 s, no rest after the only step
    assert found.load.routines[0].session_min == pytest.approx(25 / 60)


def test_occluded_open_speech_goes_from_straw_to_words():
    found = proposed("semi_to_speech", known=NINE)
    assert [s.task for s in found.program.steps] == ["straw_air", "buzzed_oo", "occluded_to_open"]
    assert step(found, "occluded_to_open").grade.words[0] == "straw before every phrase"


def test_the_three_pitch_schools_of_the_sustained_notes():
    shifted = step(proposed("sustained"), "sustained_power")
    # C4–G4 with margin 2 must lie in A3–F4: G4 is 2 too high → −2
    assert names(h.note for h in shifted.holds) == ["B♭3", "C4", "D4", "E♭4", "F4"]
    moved = said([shifted.holds[0].because], "pitches_moved_down").params
    assert (moved["first"], moved["wanted"], moved["highest"]) == ("B♭3", "C4", "G4")
    wide = {"lowest": "G3", "highest": "C5", "speaking": "B3"}
    standard = step(
        proposed("sustained", known=wide, options={"pitches": "standard"}), "sustained_power"
    )
    assert names(h.note for h in standard.holds) == ["C4", "D4", "E4", "F4", "G4"]
    speaking = step(
        proposed("sustained", known=wide, options={"pitches": "speaking"}), "sustained_power"
    )
    # built on B3: B3 C♯4 E♭4 E4 F♯4, inside A3–B♭4
    assert names(h.note for h in speaking.holds) == ["B3", "C♯4", "E♭4", "E4", "F♯4"]


@pytest.mark.parametrize(
    ("goal", "last"),
    [
        ("share", 9.0),  # 100 % of the best ah 9.4 s, floored to 0.5 s
        ("airflow", 34.0),  # (21.78 − 0.101·52)·165 = 2727 mL ÷ 80 mL/s = 34.1 s
        ("own_s", 17.5),  # her longest /s/ 17.6 s
        ("time", 30.0),  # the fixed ladder ends at 30 s
        ("steady", 6.5),  # no number: only the first rung, reckoned for the dose
    ],
)
def test_the_five_hold_goals(goal, last):
    grade = step(proposed("sustained", options={"goal": goal}), "sustained_power").grade
    assert grade.rungs[-1] == last
    # first rung: 0.8 × median 8.2 = 6.56 → 6.5, below the lowest probe 7.0; of the ladder 5 s
    assert grade.rungs[0] == (5.0 if goal == "time" else 6.5)


def test_the_doses_of_the_sustained_notes():
    five = proposed("sustained", options={"dose": "five_days"}).program.routines[0].dose
    assert (five.sessions_a_day, five.days_a_week, five.weeks, five.taper) == (2, 5, 5, ())
    every = proposed("sustained", options={"dose": "every_day"}).program.routines[0].dose
    assert (every.sessions_a_day, every.days_a_week, every.weeks) == (2, 7, 6)
    assert [stage.every_days for stage in every.taper] == [1, 1, 2, 7]


def test_loudness_over_three_vowels_works_toward_ten_seconds():
    found = proposed("loudness_vowels", known=NINE | {"strong_s": (8.8, 9.4)})
    vowels = step(found, "loud_vowels")
    # 80 % of the best strong “ah” 9.4 = 7.52 → 7.5; then × 1.15 floored: 8.5, 9.5, 10
    assert vowels.grade.rungs == (7.5, 8.5, 9.5, 10.0)
    # ten seconds are the cap, not the start, however long the strong “ah” was
    long = step(proposed("loudness_vowels", known=NINE | {"strong_s": (21.0,)}), "loud_vowels")
    assert long.grade.rungs == (10.0,)
    # two glides for each of three vowels
    assert step(found, "loud_glides").repetitions == 6
    assert len(vowels.holds) == 3
    assert vowels.repetitions == 2
    assert (vowels.level.effort_low, vowels.level.effort_high) == (7, 9)
    assert found.program.routines[0].short_day.task == "short_day_reading"


def test_longest_ah_grows_with_the_client():
    ah = step(proposed("loudness_longest", known=NINE | {"strong_s": (9.4,)}), "loud_ah")
    # own longest strong “ah” 9.4 s: 7.5, 8.5, then 9.4 floored to 9
    assert ah.grade.rungs == (7.5, 8.5, 9.0)
    assert ah.repetitions == 5


def test_decibels_start_no_higher_than_was_shown():
    def first(shown):
        known = NINE | {"strong_over_db": shown}
        found = proposed("loudness_longest", known=known, options={"aim": "decibel"})
        return step(found, "loud_reading").grade.rungs

    # + 3 dB at first, + 2 dB a rung, to the strong “ah” of + 8: the last step is under 2 dB
    assert first(8.0) == (3.0, 5.0, 7.0, 8.0)
    assert first(9.0) == (3.0, 5.0, 7.0, 9.0)
    # a strong ah of only + 1.5 dB: start there
    assert first(1.5)[0] == 1.5
    unknown = proposed("loudness_longest", known=NINE, options={"aim": "decibel"})
    assert step(unknown, "loud_reading").level.effort_low == 7
    assert said(unknown.program.asked, "measure_levels")


@pytest.mark.parametrize(
    ("shown", "strong", "speech"),
    [(11.0, 9.0, 3.0), (4.0, 3.0, 3.0), (1.5, 1.5, 1.5), (-1.0, 0.0, 0.0), (40.0, 20.0, 3.0)],
)
def test_strong_holds_aim_under_the_strong_ah_and_speech_over_the_conversation(
    shown, strong, speech
):
    """Strong: the cued “ah” less 2 dB, at least the level for speech, never above what was shown."""
    known = NINE | {"strong_s": (9.0,), "strong_over_db": shown}
    found = proposed("loudness_vowels", known=known, options={"aim": "decibel"})
    assert step(found, "loud_vowels").level.over_db == strong
    assert step(found, "loud_glides").level.over_db == strong
    assert step(found, "own_phrases").level.over_db == speech


def test_an_untimed_strong_ah_is_asked_for_and_no_plain_one_stands_for_it():
    found = proposed("loudness_vowels", known=NINE)
    assert step(found, "loud_vowels") is None
    assert step(found, "own_phrases")
    assert said(found.program.asked, "measure_strong")
    assert [out.task for out in found.left_out] == ["Three vowels, fixed holds"]


def test_reading_takes_the_words_of_the_passage_at_the_clients_own_rate():
    known = NINE | {"reading_wpm": 90.0, "strong_s": (9.0,)}
    # 120 words at 90 a minute = 80 s
    assert step(proposed("loudness_vowels", known=known), "loud_reading").target.seconds == 80
    unknown = proposed("loudness_vowels", known=NINE)
    # 120 words at the assumed 150 a minute = 48 s, and the rate is asked for
    assert step(unknown, "loud_reading").target.seconds == 48
    assert said(unknown.program.asked, "measure_reading_rate")


def test_the_intensive_school_is_once_at_home_on_visit_days():
    load = proposed("loudness_vowels", known=NINE, options={"dose": "intensive"}).load
    # 7 days × 2, less one on each of the four visit days: 10 home sessions
    assert load.sessions_a_week == 10


def test_patterns_for_the_speaking_voice_stop_at_the_transition():
    known = {
        "lowest": "E2",
        "highest": "E4",
        "transition": "C4",
        "speaking": "B2",
        "voice_group": "men",
    }
    pattern = step(proposed("range_speaking", known=known), "pattern_three").target
    grade = step(proposed("range_speaking", known=known), "pattern_three").grade
    # floor E2 + 2 = F♯2; the highest note stays a semitone under the transition: B3, key G3
    # B2 down to F♯2 is 6 keys, then up to G3 8 more
    assert (pattern.keys[0].name, min(pattern.keys).name, max(pattern.keys).name) == (
        "B2",
        "F♯2",
        "G3",
    )
    assert len(pattern.keys) == 14
    # 14 keys × (5 notes + 2 beats of breath) at 90 beats/min = 14·7·60/90
    assert pattern.seconds == pytest.approx(65.33, abs=0.01)
    # the last rung's top note: key A♭3 + a third (4) = C4, the transition
    assert grade.targets[-1].keys[-1].up(4).name == "C4"


def test_patterns_through_the_whole_range():
    known = {"lowest": "E3", "highest": "C5", "speaking": "A3"}
    pattern = step(proposed("range_full", known=known), "pattern_five")
    # floor F♯3, ceiling C5 − 2 = B♭4; a fifth is 7: top key E♭4; A3 down to F♯3 = 4 keys, up = 6
    assert len(pattern.target.keys) == 10
    assert pattern.grade.words[0] == "up to the key E♭4"
    # two semitones more to the highest comfortable note C5 = key F4
    assert pattern.grade.words[1:] == ("up to the key E4", "up to the key F4")
    four = step(proposed("range_full", known=known, options={"width": "four"}), "pattern_four")
    assert max(four.target.keys).up(5).name == "B♭4"


def test_resonance_follows_the_balance():
    def tasks(balance):
        return [s.task for s in proposed("resonance", options={"balance": balance}).program.steps]

    assert tasks("mouth") == ["hum_to_words", "ng_text"]
    assert tasks("nose") == ["yawn_space", "pinch_check", "quiet_ah"]
    assert tasks("dull") == ["bright_call", "hum_to_words"]


def test_onset_follows_the_balance():
    hard = proposed("onset", options={"start": "hard"})
    assert step(hard, "easy_onset").target.count == 20
    assert step(proposed("onset", options={"start": "breathy"}), "gentle_touch")
    buzz = step(hard, "hiss_to_buzz").target
    # a third of the way up A3–F4 (8 semitones): + 2 = B3
    assert buzz.note.name == "B3"


def test_gender_affirming_work_climbs_a_semitone_and_reviews_after_three():
    known = {"lowest": "A2", "highest": "A4", "speaking": "E3"}
    up = step(proposed("gender_affirming", known=known), "target_pitch_phrases")
    assert up.target.note.name == "E3"
    assert up.grade.words[:4] == ("E3", "F3", "F♯3", "G3: review, resonance and intonation first")
    assert len(up.grade.rungs) == 7  # six semitones on at most
    down = proposed("gender_affirming", known=known, options={"direction": "down"})
    # never within three semitones of the lowest note A2: C3
    assert step(down, "target_pitch_hold").grade.words[-1] == "C3"
    wish = proposed("gender_affirming", known=known, options={"target": "G3"})
    assert step(wish, "target_pitch_hold").grade.rungs[-1] == 55  # G3


def test_articulation_climbs_by_a_tenth():
    chains = step(proposed("articulation"), "consonant_chains")
    # 60 beats/min, each next × 1.1 rounded to a beat
    assert chains.grade.rungs[:4] == (60, 66, 73, 80)


def test_carry_over_ends_in_the_real_place():
    found = proposed("carry_over")
    assert [s.task for s in found.program.steps][-1] == "real_place"
    assert step(found, "real_place").grade.words == (
        "a quiet counter", "with a mask", "on a video call", "in noise", "on the phone",
    )  # fmt: skip


def test_a_warm_up_fits_its_minutes_and_the_state_of_the_voice():
    healthy = proposed("warm_up", options={"minutes": "15"}, known=NINE)
    # siren: 20 % of 15 min = 180 s
    assert step(healthy, "siren").target.seconds == 180
    assert healthy.load.routines[0].session_min <= 15
    tired = proposed("warm_up", options={"minutes": "15", "state": "tired"}, known=NINE)
    # 30 % of 15 min = 270 s, and no range work today
    assert step(tired, "siren").target.seconds == 270
    assert not any(s.phase is Phase.RANGE for s in tired.program.steps)
    order = [s.phase for s in healthy.program.steps]
    assert order.index(Phase.RESONANCE) < order.index(Phase.RANGE)


def test_a_cool_down_falls_from_the_middle():
    falling = step(proposed("cool_down"), "cool_down_glides")
    # middle of G3–G4 (12 semitones) is C♯4; foot less margin A3
    assert (falling.target.start.name, falling.target.end.name) == ("C♯4", "A3")
    assert falling.repetitions == 4


def test_every_school_says_how_it_differs_and_has_a_dose():
    for school in schools().values():
        assert len(school.words) > 40, school.key
        assert all(dose["words"] for dose in school.doses.values())
    with pytest.raises(PlanError) as unknown:
        school_of("humming_in_the_rain")
    assert unknown.value.code == "school_unknown"


def test_rewording_a_task_changes_no_dose():
    words = {
        "name": "Loud!",
        "sound": "aah – ooh – eeh",
        "instruction": "Call.",
        "purpose": "To carry.",
    }
    loud = replace(shipped_tasks()["loud_vowels"], **words)
    wanted = request("loudness_vowels", known=NINE | {"strong_s": (9.0,)})
    before = propose_for(wanted)
    after = propose_for(wanted, tasks={**shipped_tasks(), "loud_vowels": loud})
    first, same = step(before, "loud_vowels"), step(after, "loud_vowels")
    assert len(first.holds) == 3
    assert (same.target, same.grade, same.level) == (first.target, first.grade, first.level)
    assert after.load == before.load
