"""Bubbles, hisses, joins, patterns, speech and breath against sounds whose truth is known."""

import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.errors import CoreError, SoundError
from core.kinds.attempt import figures
from core.kinds.breath.aim import PaceTarget
from core.kinds.level.aim import LevelTarget
from core.kinds.live import LiveMeasurement, measure_sound
from core.kinds.pattern.aim import PatternTarget
from core.kinds.registry import kinds, read_task_figures, target_of
from core.notes.note import Note
from core.sound.kernel import frames_of
from core.sound.reading import Sound
from lab.kinds.breath import breathing
from lab.kinds.bubbles import bubbling
from lab.kinds.hiss import hissed
from lab.kinds.level import speaking
from lab.kinds.pattern import singing
from lab.kinds.sz import joining
from lab.simulate.surroundings import at_level
from lab.simulate.tasks import breathe, bubble, hiss_to_buzz, sing_pattern, speak
from lab.simulate.voice import Voice, sing
from tests.factories.measured_tasks import codes, measured

QUIET = -70.0


def noise(seconds, level_db, seed=0):
    return at_level(np.random.default_rng(seed).normal(size=round(seconds * 16_000)), level_db)


def silent(seconds=3.0):
    return Sound(noise(seconds, QUIET), 16_000)


# Bubbles


@pytest.mark.parametrize("seed", range(9))
def test_bubbles_are_counted_and_their_stops_found(seed):
    played = bubbling(seed)
    found = measured(played, "bubbles")
    assert found.own.rate_hz == pytest.approx(played.bubble_hz, rel=0.04)
    assert abs(1200 * np.log2(found.f0_median_hz / played.f0_hz)) < 10
    assert found.hold_s == pytest.approx(played.offset_s - played.onset_s, abs=0.2)
    assert len(found.own.stops) == len(played.stops)
    for seen, true in zip(found.own.stops, played.stops, strict=True):
        assert seen == pytest.approx(true, abs=0.15)


def test_bubbles_are_drawn_as_they_rise():
    played = bubbling(3)
    live = LiveMeasurement(16_000, "bubbles")
    seen = []
    for at in range(0, len(played.samples), 1_600):
        seen += live.feed(played.samples[at : at + 1_600]).bubbles_s
    (stop,) = played.stops
    rising_s = played.offset_s - played.onset_s - (stop[1] - stop[0])
    assert len(seen) == pytest.approx(rising_s * played.bubble_hz, rel=0.2)
    assert sum(stop[0] + 0.1 < time < stop[1] - 0.1 for time in seen) <= 1
    assert np.diff(seen).min() >= 0.02 - 1e-9


@pytest.mark.parametrize("tremor_cents", [0.0, 80.0])
def test_a_tube_lifted_out_of_the_water_makes_no_bubbles(tremor_cents):
    voice = Voice(f0_hz=180.0, seconds=4.0, vowel="oo", tremor_hz=6.0, tremor_cents=tremor_cents)
    found = measured(sing(voice), "bubbles")
    assert found.own.rate_hz is None
    assert codes(found) == ["no_bubbles"]


def test_a_voice_that_goes_away_while_bubbles_go_on_is_a_stop_of_the_voice():
    voice = Voice(f0_hz=200.0, seconds=6.0, seed=2)
    played = bubble(voice, bubble_hz=14.0, splash_db=-4.0)
    away = slice(round(3.0 * 16_000), round(3.6 * 16_000))
    quiet = np.random.default_rng(1).normal(size=away.stop - away.start)
    rising = 1 + np.sin(2 * np.pi * 14 * np.arange(len(quiet)) / 16_000)
    samples = played.samples.copy()
    samples[away] = at_level(quiet * rising, -34.0)
    found = measure_sound(Sound(samples, 16_000), "bubbles")
    assert found.hold_s == pytest.approx(6.0, abs=0.1)
    (stop,) = found.breaks
    assert (stop.start_s, stop.end_s) == pytest.approx((3.0, 3.6), abs=0.1)
    assert "voice_stops" in codes(found)


# Hiss, and hiss to buzz


@pytest.mark.parametrize("seed", range(8))
def test_hisses_are_as_long_as_they_are(seed):
    sung = hissed(seed)
    found = measured(sung, "hiss")
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.1)
    assert codes(found)[0] == ("swell" if seed % 3 == 0 else "even")


def test_a_hiss_that_wavers_is_said():
    sung = sing(Voice(f0_hz=200.0, seconds=5.0, hiss=True, tremor_hz=0.7, tremor_db=5.0))
    assert codes(measured(sung, "hiss")) == ["uneven"]


def test_a_fan_does_not_hide_a_hiss():
    sung = sing(Voice(f0_hz=200.0, seconds=4.0, hiss=True, level_db=-34.0))
    rumble = np.cumsum(noise(len(sung.samples) / 16_000, -20.0, 3)) * 0.02
    rumble -= np.convolve(rumble, np.ones(800) / 800, "same")
    found = measure_sound(Sound(sung.samples + at_level(rumble, -32.0), 16_000), "hiss")
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.1)


@pytest.mark.parametrize("seed", range(8))
def test_the_voice_sets_in_where_the_hiss_turns_into_a_buzz(seed):
    played = joining(seed)
    found = measured(played, "sz")
    assert found.own.switch_s == pytest.approx(played.switch_s, abs=0.012)
    assert found.own.gap_s == pytest.approx(played.gap_s, abs=0.012)
    assert codes(found) == (["join_gap"] if played.gap_s else ["joined"])


def test_only_one_of_the_two_sounds_gives_no_switch():
    hiss = measured(sing(Voice(f0_hz=200.0, seconds=3.0, hiss=True)), "sz")
    buzz = measured(hiss_to_buzz(Voice(f0_hz=180.0, seconds=3.0, attack_s=0.03), hiss_s=0.0), "sz")
    assert (hiss.own.switch_s, codes(hiss)) == (None, ["only_hiss"])
    assert (buzz.own.switch_s, codes(buzz)) == (None, ["only_buzz"])


# Patterns


@pytest.mark.parametrize("seed", range(8))
def test_every_note_of_a_pattern_is_found_where_and_as_it_was_sung(seed):
    played, notes = singing(seed)
    own = measured(played, "pattern", PatternTarget(notes)).own
    assert (own.missing, own.added, own.key_semitones) == ((), (), 0)
    for seen, (name, start_s, _end, cents) in zip(own.notes, played.notes, strict=True):
        assert seen.name == name
        assert seen.start_s == pytest.approx(start_s, abs=0.04)
        assert seen.cents == pytest.approx(cents, abs=9)
    assert len(own.breaths) == (seed % 3 == 0)


SCALE = tuple(Note.named(name) for name in ["C4", "D4", "E4", "F4", "G4", "F4", "E4", "D4", "C4"])
SINGER = Voice(f0_hz=262.0, seconds=1.0, jitter_percent=0.2)


@pytest.mark.parametrize("semitones", [-12, -3, 2, 12])
def test_another_key_or_octave_is_recognised_and_said(semitones):
    sung = [Note(note.number + semitones) for note in SCALE]
    found = measured(sing_pattern(SINGER, sung), "pattern", PatternTarget(SCALE))
    assert found.own.key_semitones == semitones
    assert found.own.missing == ()
    assert [note.name for note in found.own.notes] == [note.name for note in sung]
    assert codes(found)[0] == "other_key"


def test_missing_and_added_notes_are_named():
    skipped = [note for place, note in enumerate(SCALE) if place != 3]
    own = measured(sing_pattern(SINGER, skipped), "pattern", PatternTarget(SCALE)).own
    assert (own.missing, own.added) == ((3,), ())
    extra = [*SCALE[:4], Note.named("A4"), *SCALE[4:]]
    found = measured(sing_pattern(SINGER, extra), "pattern", PatternTarget(SCALE))
    assert (found.own.missing, [n.name for n in found.own.added]) == ((), ["A4"])
    assert codes(found) == ["added"]


def test_tempo_is_kept_or_not():
    even = measured(sing_pattern(SINGER, SCALE, note_s=0.4), "pattern", PatternTarget(SCALE))
    assert even.own.note_s == pytest.approx(0.4, abs=0.01)
    assert even.own.tempo_sd_percent < 8
    slow = sing_pattern(SINGER, SCALE[:5], note_s=0.7)
    quick = sing_pattern(SINGER, SCALE[5:], note_s=0.3)
    cut, begin = round(slow.offset_s * 16_000), round(quick.onset_s * 16_000)
    samples = np.concatenate((slow.samples[:cut], quick.samples[begin:]))
    uneven = measure_sound(Sound(samples, 16_000), "pattern", target=PatternTarget(SCALE))
    assert "uneven_tempo" in codes(uneven)


def test_a_pattern_without_a_target_still_names_its_notes():
    own = measured(sing_pattern(SINGER, SCALE[:3]), "pattern").own
    assert [note.name for note in own.added] == ["C4", "D4", "E4"]
    assert own.notes == ()


# Speech


@pytest.mark.parametrize("seed", range(4))
def test_levels_of_speech_compare_to_half_a_decibel(seed):
    soft, loud = (speaking(seed, level_db=level) for level in (-34.0, -25.0))
    target = LevelTarget(reference_db=-30.0, over_db=3.0)
    one, two = (measured(played, "level", target) for played in (soft, loud))
    assert two.level_mean_db - one.level_mean_db == pytest.approx(9.0, abs=0.5)
    assert len(one.own.phrases) == 4
    assert one.own.over_target_share < 0.3 < 0.7 < two.own.over_target_share
    assert "under_target" in codes(one)
    assert "over_target" in codes(two)


def test_a_level_that_is_only_compared_is_not_judged():
    found = measured(speaking(2), "level", LevelTarget(reference_db=-33.0))
    assert found.own.over_reference_db == pytest.approx(found.level_mean_db + 33.0)
    assert found.own.over_target_share is None
    assert not {"over_target", "under_target", "shouted"} & set(codes(found))


def test_phrases_that_fade_are_found_and_shouting_is_marked_not_praised():
    fading = measured(speaking(1, fade_db=-8.0), "level")
    assert fading.own.trail_off_db < -4
    assert "phrases_fade" in codes(fading)
    target = LevelTarget(reference_db=-36.0, over_db=4.0)
    shouted = measured(speaking(2, level_db=-18.0), "level", target)
    assert codes(shouted)[0] == "shouted"


def test_the_rate_of_reading_needs_its_words():
    played = speak(phrases=4, phrase_s=2.0, pause_s=0.5)
    minutes = (played.offset_s - played.onset_s) / 60
    known = measured(played, "level", LevelTarget(words=24))
    assert known.own.words_a_minute == pytest.approx(24 / minutes, rel=0.03)
    assert measured(played, "level").own.words_a_minute is None
    stopped = measured(played, "level", LevelTarget(words=200))
    assert stopped.own.words_a_minute is None
    assert [reason.code for reason in stopped.quality.reasons] == ["stopped_early"]


def claps():
    random = np.random.default_rng(3)
    sound = noise(5.0, QUIET)
    for at in range(8_000, 72_000, 9_000):
        sound[at : at + 600] += 0.3 * random.normal(size=600) * np.exp(-np.arange(600) / 120)
    return sound


def whispered():
    played = speaking(3)
    loud = np.convolve(np.abs(played.samples), np.ones(400) / 400, "same")
    return (
        np.random.default_rng(4).normal(size=len(loud)) * loud
        + noise(len(loud) / 16_000, QUIET)[: len(loud)]
    )


@pytest.mark.parametrize("sound", [claps, whispered])
def test_clapping_and_whispering_are_no_speech(sound):
    found = measure_sound(Sound(np.clip(sound(), -1, 1), 16_000), "level")
    assert not found.hold_s
    assert found.own is None
    assert "no_voice" in [reason.code for reason in found.quality.reasons]


def test_held_notes_are_said_not_to_be_speech():
    found = measured(sing(Voice(f0_hz=262.0, seconds=5.0)), "level")
    assert "not_speech" in [reason.code for reason in found.quality.reasons]


# Breath


@pytest.mark.parametrize("seed", range(5))
def test_breaths_in_and_out_are_told_apart_and_timed(seed):
    played = breathing(seed)
    lengths = [end - start for start, end in played.breaths]
    pace = PaceTarget(in_s=lengths[0], out_s=lengths[1])
    own = measured(played, "breath", pace).own
    assert (len(own.ins), len(own.outs)) == (3, 3)
    assert (own.in_s, own.out_s) == pytest.approx((lengths[0], lengths[1]), abs=0.2)
    assert own.off_pace_s < 0.2


def test_a_breath_off_the_pace_is_said():
    played = breathe(in_s=2.0, out_s=3.0)
    found = measured(played, "breath", PaceTarget(in_s=2.0, out_s=6.0))
    assert codes(found) == ["off_pace"]


def test_a_breath_that_cannot_be_heard_is_not_measurable():
    found = measured(breathe(in_s=2.4, out_s=4.8, level_db=-72.0), "breath")
    assert found.hold_s is None
    assert [reason.code for reason in found.quality.reasons] == ["breath_inaudible"]


# All of them


@pytest.mark.parametrize("task", list(kinds()))
def test_silence_and_a_moment_of_sound_give_no_figures(task):
    for sound in (silent(), silent(0.5), Sound(np.zeros(1), 16_000), Sound(np.ones(8_000), 16_000)):
        found = measure_sound(sound, task)
        assert not found.hold_s
        assert found.own is None
        json.dumps(found.as_data(), allow_nan=False)


EACH = {
    "hold": (lambda: sing(Voice(f0_hz=220.0, seconds=3.0)), "A3"),
    "swell": (lambda: sing(Voice(f0_hz=220.0, seconds=4.0, swell_db=8.0)), "A3"),
    "glide": (lambda: sing(Voice(f0_hz=150.0, seconds=4.0, glide_to_hz=300.0)), None),
    "hiss": (lambda: hissed(0), None),
    "sz": (lambda: joining(1), None),
    "bubbles": (lambda: bubbling(3), None),
    "pattern": (lambda: sing_pattern(SINGER, SCALE), "C4 D4 E4 F4 G4 F4 E4 D4 C4"),
    "level": (lambda: speaking(0), "-30 dB + 3 dB, 20 words"),
    "breath": (lambda: breathing(0), "in 2.4 out 4.8"),
}


@pytest.mark.parametrize("task", list(EACH))
def test_the_own_figures_of_a_task_survive_the_open_format(task):
    make, target = EACH[task]
    found = measured(make(), task, target_of(task, target))
    data = json.loads(json.dumps(found.as_data(), allow_nan=False))
    assert data["target"] == target
    again = read_task_figures(data)
    assert (again and again.as_data()) == (found.own and found.own.as_data())


@pytest.mark.parametrize("task", list(EACH))
@settings(max_examples=4)
@given(seed=st.integers(0, 10_000))
def test_sound_cut_anywhere_gives_the_same_figures(task, seed):
    make, target = EACH[task]
    played, aim = make(), target_of(task, target)
    random = np.random.default_rng(seed)
    live = LiveMeasurement(played.rate_hz, task, target=aim)
    at = 0
    while at < len(played.samples):
        size = int(random.integers(1, 6_000))
        live.feed(played.samples[at : at + size])
        at += size
    cut = live.stop().as_data(contour=False)
    whole = measured(played, task, aim).as_data(contour=False)
    if played.rate_hz == 16_000:
        assert cut == whole
    assert cut["hold_s"] == pytest.approx(whole["hold_s"], abs=0.003)


@pytest.mark.parametrize("task", list(EACH))
def test_figures_need_only_the_frames(task):
    make, target = EACH[task]
    played = make()
    if played.rate_hz == 16_000:
        aim = target_of(task, target)
        from_frames = figures(frames_of(played.samples), task, target=aim)
        assert from_frames.as_data() == measured(played, task, aim).as_data()


@pytest.mark.parametrize(
    ("task", "text", "code"),
    [
        ("hold", "H9", "note_unknown"),
        ("pattern", "C4", "pattern_out_of_limits"),
        ("pattern", "C4 X4", "note_unknown"),
        ("level", "loud", "target_unreadable"),
        ("breath", "in 4", "target_unreadable"),
        ("breath", "in 0.1 out 4", "pace_out_of_limits"),
    ],
)
def test_targets_that_cannot_be_read_are_refused(task, text, code):
    with pytest.raises(CoreError) as refused:
        target_of(task, text)
    assert refused.value.code == code


@pytest.mark.parametrize(
    ("task", "text"),
    [
        ("pattern", "C4 D4 E♭4"),
        ("level", "-30 dB + 4 dB, 120 words"),
        ("level", "-26 dB"),
        ("level", "61 words"),
        ("level", "reference -31.5 dB, 61 words"),
        ("breath", "in 2.4 out 7.2"),
    ],
)
def test_a_target_is_the_same_read_from_its_own_name(task, text):
    target = target_of(task, text)
    assert target is not None
    assert target.name == text
    assert target_of(task, target.name) == target


def test_an_endless_pattern_is_refused():
    with pytest.raises(SoundError):
        PatternTarget(tuple(SCALE) * 7)
