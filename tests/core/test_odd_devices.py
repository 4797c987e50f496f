"""What devices do to sound, and that none of it becomes a finding about the voice."""

import numpy as np
import pytest
import soxr

from core.kinds.live import LiveMeasurement, measure_sound
from core.sound.figures import QualityVerdict
from core.sound.losses import LossFinder
from core.sound.reading import Sound
from lab.simulate.tasks import bubble
from lab.simulate.voice import Voice, sing

SUNG = sing(Voice(f0_hz=196.0, seconds=5.0, level_db=-26.0, lead_s=1.0, tail_s=1.0, seed=4))
RATE = 16_000


def measured(samples, task="hold", rate_hz=RATE):
    return measure_sound(Sound(np.asarray(samples, dtype=np.float64), rate_hz), task)


def codes(figures):
    return [reason.code for reason in figures.quality.reasons]


@pytest.mark.parametrize("offset", [-0.2, 0.05, 0.1, 0.2])
def test_a_constant_offset_of_the_input_is_taken_out(offset):
    plain, moved = measured(SUNG.samples), measured(SUNG.samples + offset)
    assert moved.quality.verdict is QualityVerdict.GOOD
    assert moved.hold_s == pytest.approx(plain.hold_s, abs=0.01)
    assert moved.f0_median_hz == pytest.approx(plain.f0_median_hz, rel=1e-4)
    assert moved.level_mean_db == pytest.approx(plain.level_mean_db, abs=0.1)
    assert moved.room_db == pytest.approx(plain.room_db, abs=1.0)


@pytest.mark.parametrize("gain_db", [20, 30, 40])
def test_a_clipped_hold_keeps_time_and_pitch_and_has_no_level(gain_db):
    loud = np.clip(SUNG.samples * 10 ** (gain_db / 20), -1, 1)
    assert (np.abs(loud) >= 0.999).mean() > 0.001
    found = measured(loud)
    assert found.quality.verdict is QualityVerdict.USABLE
    assert codes(found)[0] == "clipped"
    assert found.hold_s == pytest.approx(SUNG.hold_s, abs=0.05)
    assert found.f0_median_hz == pytest.approx(196.0, rel=2e-3)
    levels = (found.level_mean_db, found.level_sd_db, found.trail_off_db, found.slope_db_per_s)
    assert levels == (None, None, None, None)
    assert measured(SUNG.samples).level_mean_db is not None


@pytest.mark.parametrize("rate_hz", [8_000, 16_000, 22_050, 44_100, 48_000, 96_000])
def test_every_rate_gives_the_same_figures_live_and_whole(rate_hz):
    sound = soxr.resample(SUNG.samples, RATE, rate_hz)
    pcm = np.round(sound * 32767).astype("<i2")
    whole = measured(pcm / 32768, rate_hz=rate_hz)
    live = LiveMeasurement(rate_hz, "hold")
    step = rate_hz // 10
    for at in range(0, len(pcm), step):
        live.feed(pcm[at : at + step].astype(np.float32) / 32768)
    found = live.stop()
    assert found.as_data(contour=False) == whole.as_data(contour=False)
    assert found.hold_s == pytest.approx(SUNG.hold_s, abs=0.03)
    assert found.f0_median_hz == pytest.approx(196.0, rel=1e-3)


def with_zeros(samples, at_s, seconds, rate_hz=RATE):
    lost = np.array(samples, dtype=np.float64)
    lost[int(at_s * rate_hz) : int((at_s + seconds) * rate_hz)] = 0.0
    return lost


@pytest.mark.parametrize("seconds", [0.004, 0.02, 0.1, 0.4, 1.2])
@pytest.mark.parametrize("rate_hz", [16_000, 48_000])
def test_zeros_inside_a_voice_are_the_devices_and_no_finding(seconds, rate_hz):
    sound = soxr.resample(SUNG.samples, RATE, rate_hz)
    found = measured(with_zeros(sound, 3.0, seconds, rate_hz), rate_hz=rate_hz)
    assert found.quality.verdict is QualityVerdict.NOT_MEASURABLE
    assert codes(found) == ["device_lost_sound"]
    assert found.quality.reasons[0].params["times"] >= 1
    assert found.hold_s is None
    assert found.breaks == ()


def test_a_splice_in_a_voice_is_the_devices():
    at = int(3.0 * RATE) + int(np.abs(np.diff(SUNG.samples[3 * RATE : 3 * RATE + 80])).argmin())
    peak = at + int(SUNG.samples[at : at + 200].argmax())
    low = peak + 400 + int(SUNG.samples[peak + 400 : peak + 600].argmin())
    spliced = np.concatenate((SUNG.samples[:peak], SUNG.samples[low:]))
    assert codes(measured(spliced)) == ["device_lost_sound"]


@pytest.mark.parametrize("gap_s", [0.1, 0.2, 0.6])
def test_a_voice_that_cuts_out_is_the_voices(gap_s):
    """The room goes on where a voice stops: that is a break, or the end of the hold."""
    cut = sing(Voice(f0_hz=196.0, seconds=5.0, lead_s=1.0, gaps=((2.5, gap_s),), seed=4))
    found = measured(cut.samples)
    assert "device_lost_sound" not in codes(found)
    assert found.hold_s


def test_quiet_sixteen_bit_sound_full_of_single_zeros_lost_nothing():
    rng = np.random.default_rng(3)
    quiet = np.round(rng.normal(0, 2, 5 * RATE)) / 32768
    assert (quiet == 0).mean() > 0.15
    finder = LossFinder(RATE)
    finder.push(quiet)
    finder.finish()
    assert finder.found() == ()


@pytest.mark.parametrize("piece", [37, 1_600, 80_000])
def test_lost_sound_is_found_where_it_is_however_the_stream_is_cut(piece):
    sound = np.round(SUNG.samples * 32768).astype(np.float32) / 32768
    holes_s = (1.995, 3.2, 4.0)  # the first lies over a seam of seconds
    for at_s in holes_s:
        sound[round(at_s * RATE) : round((at_s + 0.012) * RATE)] = 0
    finder = LossFinder(RATE)
    for at in range(0, len(sound), piece):
        finder.push(sound[at : at + piece])
    finder.finish()
    assert [loss.at_s for loss in finder.found()] == pytest.approx(holes_s, abs=0.001)
    assert [loss.seconds for loss in finder.found()] == pytest.approx([0.012] * 3, abs=0.001)


def test_a_device_that_is_silent_before_and_after_lost_nothing():
    padded = np.concatenate((np.zeros(RATE), SUNG.samples, np.zeros(RATE)))
    assert measured(padded).quality.verdict is QualityVerdict.GOOD
    clicks = np.zeros(3 * RATE)
    clicks[:: RATE // 3] = 0.9
    assert "device_lost_sound" not in codes(measured(clicks))


@pytest.mark.parametrize("stop_s", [0.3, 0.5, 0.7])
def test_a_stop_of_voice_and_bubbles_in_a_tube_is_one_attempt(stop_s):
    voice = Voice(f0_hz=180.0, seconds=6.0, lead_s=0.5, gaps=((2.5, stop_s),), seed=3)
    sound = bubble(voice, bubble_hz=15.0, stops=((2.5, stop_s),))
    found = measured(sound.samples, "bubbles")
    assert "more_than_one_voice" not in codes(found)
    assert found.hold_s == pytest.approx(6.0, abs=0.3)


@pytest.mark.parametrize("hz", [440.0, 1000.0])
def test_a_beep_is_no_hiss_that_turns_into_a_buzz(hz):
    t = np.arange(5 * RATE) / RATE
    room = np.random.default_rng(2).normal(0, 3e-4, len(t) + 2 * RATE)
    room[RATE:-RATE] += 0.1 * np.sin(2 * np.pi * hz * t)
    assert measured(room, "sz").hold_s == 0.0


def test_half_an_hour_of_talk_costs_about_as_much_a_second_as_a_minute():
    """Counted in calls, not in time: what is looked at once a region must not be once a pair."""
    import cProfile

    from lab.simulate.tasks import speak

    talk = speak(phrases=8, phrase_s=1.2, seed=3).samples

    def calls(times):
        profile = cProfile.Profile()
        profile.enable()
        measured(np.tile(talk, times))
        profile.disable()
        return sum(entry.callcount for entry in profile.getstats())

    assert calls(16) < 1.3 * 4 * calls(4)
