"""Sound files as they come: formats, channels, sizes, damage."""

import io
import json
import subprocess
import sys
import wave

import numpy as np
import pytest
import soundfile

from core.errors import SoundError
from core.sound.reading import open_sound, read_sound
from lab.simulate.voice import Voice, sing
from ops.terminal.measure import measure_one


@pytest.mark.parametrize("subtype", ["PCM_U8", "PCM_16", "PCM_24", "PCM_32", "FLOAT", "DOUBLE"])
def test_every_wav_sample_format_is_read(subtype):
    file = io.BytesIO()
    samples = sing(Voice(f0_hz=220.0, seconds=1.0, level_db=-12.0)).samples
    soundfile.write(file, samples, 16_000, subtype=subtype, format="WAV")
    assert read_sound(file.getvalue()).samples == pytest.approx(samples, abs=0.01)


def test_of_two_channels_the_better_one_is_taken():
    good = sing(Voice(f0_hz=220.0, seconds=1.0, level_db=-20.0)).samples
    clipped = np.clip(good * 40, -1, 1)
    file = io.BytesIO()
    soundfile.write(file, np.stack((clipped, good), axis=1), 16_000, format="WAV")
    assert read_sound(file.getvalue()).samples == pytest.approx(good, abs=0.001)


def wav(seconds=1.0, rate=16_000):
    file = io.BytesIO()
    with wave.open(file, "wb") as out:
        out.setparams((1, 2, rate, 0, "NONE", ""))
        out.writeframes(b"\0\0" * int(seconds * rate))
    return file.getvalue()


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "sound_empty"),
        (wav(0), "sound_empty"),
        (b"no sound at all", "sound_unreadable"),
        (wav()[:5000], "sound_truncated"),
        (wav()[:30], "sound_truncated"),
        (wav(121), "sound_too_long"),
        (wav(rate=3_000), "rate_out_of_limits"),
        (b"RIFF" + b"\0" * (25 * 1024 * 1024), "sound_too_large"),
    ],
)
def test_what_cannot_be_measured_is_refused_with_its_code(data, code):
    with pytest.raises(SoundError) as refused:
        read_sound(data)
    assert refused.value.code == code


def test_nan_in_a_float_wav_is_refused():
    file = io.BytesIO()
    soundfile.write(file, np.full(16_000, np.nan), 16_000, subtype="FLOAT", format="WAV")
    with pytest.raises(SoundError) as refused:
        read_sound(file.getvalue())
    assert refused.value.code == "sound_not_finite"


@pytest.mark.parametrize("kind", ["FLAC", "OGG"])
def test_flac_and_ogg_measure_like_wav(tmp_path, kind):
    sung = sing(Voice(f0_hz=233.08, seconds=2.0), 44_100)
    file = tmp_path / f"voice.{kind.lower()}"
    soundfile.write(file, sung.samples, sung.rate_hz, format=kind)
    found = measure_one({"wav": str(file), "task": "hold", "target": "A♯3"})
    assert found["error"] is None
    assert found["hold_s"] == pytest.approx(sung.hold_s, abs=0.03)
    assert found["pitch_error_cents"] == pytest.approx(0, abs=3)


@pytest.mark.parametrize("seconds", [1 / 16_000, 0.1, 0.5])
def test_very_short_sounds_are_measured_as_what_they_are(tmp_path, seconds):
    file = tmp_path / "short.wav"
    voice = sing(Voice(f0_hz=220.0, seconds=1.0, lead_s=0.0)).samples
    soundfile.write(file, voice[: int(seconds * 16_000)], 16_000)
    found = measure_one({"wav": str(file), "task": "hold"})
    assert found["error"] is None
    assert found["hold_s"] == pytest.approx(seconds if seconds > 0.3 else 0.0, abs=0.05)


def test_a_constant_voltage_is_no_voice(tmp_path):
    file = tmp_path / "dc.wav"
    soundfile.write(file, np.full(32_000, 0.4), 16_000)
    assert measure_one({"wav": str(file), "task": "hold"})["hold_s"] == 0.0


def test_blocks_are_the_whole_sound():
    samples = sing(Voice(f0_hz=220.0, seconds=2.3), 44_100)
    data = samples.as_wav()
    with open_sound(data) as sound:
        blocks = list(sound.blocks())
    assert max(len(block) for block in blocks) <= 44_100
    assert np.array_equal(np.concatenate(blocks), read_sound(data).samples)


def test_half_an_hour_is_measured_in_bounded_memory(tmp_path):
    """By the command's own process, whose peak memory is what counts."""
    file = tmp_path / "long.wav"
    piece = sing(Voice(f0_hz=196.0, seconds=9.0, lead_s=0.5, tail_s=0.5), 16_000).samples
    with soundfile.SoundFile(file, "w", 16_000, 1, "PCM_16") as out:
        for _ in range(180):
            out.write(piece)
    script = (
        "import sys; from ops.terminal.measure import main; code = main(sys.argv[1:]);"
        "status = open('/proc/self/status').read();"
        "print(status.split('VmHWM:')[1].split()[0], file=sys.stderr); sys.exit(code)"
    )
    done = subprocess.run(
        [sys.executable, "-c", script, str(file)], capture_output=True, text=True, check=True
    )
    assert json.loads(done.stdout)["hold_s"] == pytest.approx(8.99, abs=0.05)
    assert int(done.stderr.splitlines()[-1]) / 1024 < 200
