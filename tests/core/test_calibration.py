"""What a level means: distance, meter, room, and which levels compare."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.errors import SoundError
from core.kinds.live import measure_sound
from core.sound.calibration import LevelReference, distance_correction_db
from core.sound.reading import Sound
from lab.simulate.meter import FULL_SCALE_DB, meter_reading_db
from lab.simulate.voice import Voice, sing

DESK = LevelReference(
    device="desk microphone", voice_dbfs=-30.0, distance_cm=30.0, room_dbfs=-55.0, meter_db=66.0
)


def test_twice_the_distance_is_six_decibels():
    # 20·log10(60/30) = 20·0.30103 = 6.02 dB
    assert distance_correction_db(60.0) == pytest.approx(6.0206, abs=1e-4)
    assert distance_correction_db(30.0) == 0.0
    assert distance_correction_db(15.0) == pytest.approx(-6.0206, abs=1e-4)


@pytest.mark.parametrize("cm", [4.9, 100.1, 200.0, -30.0, 0.0])
def test_distances_beyond_a_metre_are_not_corrected_for(cm):
    with pytest.raises(SoundError) as refused:
        distance_correction_db(cm)
    assert refused.value.code == "distance_out_of_limits"


def test_a_meter_makes_decibels_of_a_level():
    # −30 dBFS read 66 dB: 0 dBFS stands for 96 dB; −24 dBFS is 72 dB.
    assert DESK.offset_db == pytest.approx(96.0)
    assert DESK.at_30_cm_db(-24.0) == pytest.approx(72.0)


def test_a_meter_farther_away_reads_less_of_the_same_voice():
    far = LevelReference(
        device="d", voice_dbfs=-30.0, distance_cm=30.0, meter_db=60.0, meter_distance_cm=60.0
    )
    assert far.offset_db == pytest.approx(96.02, abs=0.01)


@given(near=st.floats(5, 100), far=st.floats(5, 100), level=st.floats(-60, -10))
def test_the_same_voice_is_as_loud_from_wherever_it_is_taken(near, far, level):
    """A microphone at d takes 20·log10(30/d) less than at 30 cm."""
    taken = [level - 20 * math.log10(cm / 30) for cm in (near, far)]
    found = [DESK.at_30_cm_db(one, cm) for one, cm in zip(taken, (near, far), strict=True)]
    assert found[0] == pytest.approx(found[1], abs=1e-9)


def test_without_a_meter_there_are_no_decibels():
    soft = LevelReference(device="phone", voice_dbfs=-30.0, distance_cm=20.0)
    assert not soft.calibrated
    assert soft.at_30_cm_db(-20.0) is None


@pytest.mark.parametrize("db", [29.0, 121.0])
def test_readings_no_voice_gives_are_refused(db):
    with pytest.raises(SoundError) as refused:
        LevelReference(device="d", voice_dbfs=-30.0, distance_cm=30.0, meter_db=db)
    assert refused.value.code == "meter_out_of_limits"


def test_the_room_must_lie_ten_decibels_under_the_softest_voice():
    assert DESK.room_under_db == 25.0
    assert DESK.room_is_quiet()
    assert DESK.room_is_quiet(softest_dbfs=-45.0)
    assert not DESK.room_is_quiet(softest_dbfs=-46.0)
    assert LevelReference(device="d", voice_dbfs=-30.0, distance_cm=30.0).room_is_quiet() is None


def test_the_simulated_meter_agrees_with_the_simulated_voice():
    sung = sing(Voice(f0_hz=200.0, seconds=4.0, level_db=-29.0, wobble_semitones=0.0))
    found = measure_sound(Sound(sung.samples, 16_000), "hold")
    reading = meter_reading_db(found.level_mean_db, distance_cm=30.0, seed=5)
    reference = LevelReference(
        device="simulated", voice_dbfs=found.level_mean_db, distance_cm=30.0, meter_db=reading
    )
    assert reference.offset_db == pytest.approx(FULL_SCALE_DB, abs=1.0)
    assert meter_reading_db(-29.0, distance_cm=60.0, seed=5) == pytest.approx(
        meter_reading_db(-29.0, seed=5) - 6.0, abs=0.1
    )


def test_the_room_is_measured_beside_the_voice():
    sung = sing(Voice(f0_hz=200.0, seconds=4.0, level_db=-30.0, noise_db=-62.0, lead_s=2.0))
    found = measure_sound(Sound(sung.samples, 16_000), "hold")
    assert found.room_db == pytest.approx(-62.0, abs=1.0)
