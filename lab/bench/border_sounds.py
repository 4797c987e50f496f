"""Seeded sounds at the borders of the detectors: too short, too close together, of the wrong sort."""

from collections.abc import Callable, Mapping

from core.kinds.aim import AttemptTarget
from core.kinds.bubbles.aim import AirOnly
from core.kinds.pattern.aim import PatternTarget
from core.notes.note import Note
from core.sound.reading import Sound
from lab.simulate.surroundings import Surroundings
from lab.simulate.tasks import (
    SimulatedSound,
    breathe,
    bubble,
    hiss_to_buzz,
    sing_pattern,
    speak,
)
from lab.simulate.voice import Sung, Voice, sing

Border = tuple[Sound, str, AttemptTarget | None]
_SCALE = tuple(map(Note.named, ("C4", "D4", "E4", "F4", "E4", "D4", "C4")))


def _plain(**fields: float) -> Voice:
    return Voice(**{"f0_hz": 220.0, "seconds": 3.0, **fields})  # type: ignore[arg-type]


def _made(played: SimulatedSound | Sung, task: str, aim: AttemptTarget | None = None) -> Border:
    return Sound(played.samples, played.rate_hz), task, aim


def _joined(hiss_s: float, buzz_s: float, gap_s: float) -> Border:
    return _made(hiss_to_buzz(_plain(seconds=buzz_s), hiss_s=hiss_s, gap_s=gap_s), "sz")


def _pattern(sung: tuple[Note, ...], *, note_s: float = 0.4, breath_s: float = 0.0) -> Border:
    after = (3,) if breath_s else ()
    played = sing_pattern(
        _plain(f0_hz=261.6), sung, note_s=note_s, breaths_after=after, breath_s=breath_s
    )
    return _made(played, "pattern", PatternTarget(_SCALE))


def _with(place: int, semitones: int) -> tuple[Note, ...]:
    """The scale with one note sung wrong by so many semitones."""
    return tuple(note.up(semitones) if at == place else note for at, note in enumerate(_SCALE))


def _in_water(
    bubble_hz: float, *, seconds: float = 4.0, depth_db: float = 9.0, air_only: bool = False
) -> Border:
    played = bubble(
        _plain(seconds=seconds), bubble_hz=bubble_hz, depth_db=depth_db, air_only=air_only
    )
    return _made(played, "bubbles", AirOnly() if air_only else None)


def _voice_stops(seconds: float) -> Border:
    """Bubbles that go on while the voice stops for a while."""
    voice = bubble(_plain(seconds=5.0), bubble_hz=16.0)
    air = bubble(_plain(seconds=5.0, level_db=-32.0), bubble_hz=16.0, air_only=True)
    rate_hz, samples = voice.rate_hz, voice.samples.copy()
    first = round((voice.onset_s + 2.0) * rate_hz)
    stop = slice(first, first + round(seconds * rate_hz))
    samples[stop] = air.samples[stop]
    return Sound(samples, rate_hz), "bubbles", None


BORDERS: Mapping[str, Callable[[], Border]] = {
    "buzz half a second after the hiss": lambda: _joined(1.0, 1.0, 0.5),
    "buzz 30 ms after the hiss": lambda: _joined(1.0, 1.0, 0.03),
    "buzz of 120 ms": lambda: _joined(1.0, 0.12, 0.0),
    "hiss of 120 ms": lambda: _joined(0.12, 1.0, 0.0),
    "a held note for a buzz": lambda: _made(sing(_plain()), "sz"),
    "scale with a pause": lambda: _pattern(_SCALE, breath_s=0.8),
    "scale with a short breath": lambda: _pattern(_SCALE, breath_s=0.18),
    "scale with a wrong note": lambda: _pattern(_with(3, 2)),
    "scale with a note far off": lambda: _pattern(_with(3, 7)),
    "scale with a note left out": lambda: _pattern(_SCALE[:3] + _SCALE[4:]),
    "scale with a note added": lambda: _pattern((*_SCALE[:3], Note.named("A4"), *_SCALE[3:])),
    "scale a fourth too high": lambda: _pattern(tuple(note.up(5) for note in _SCALE)),
    "scale in another octave": lambda: _pattern(tuple(note.up(-12) for note in _SCALE)),
    "quick scale": lambda: _pattern(_SCALE, note_s=0.12),
    "glide of a fifth of a second": lambda: _made(
        sing(_plain(seconds=0.22, glide_to_hz=300.0)), "glide"
    ),
    "glide that breaks": lambda: _made(
        sing(Voice(f0_hz=150.0, seconds=3.0, glide_to_hz=400.0, gaps=((1.2, 0.15),))), "glide"
    ),
    "glide that breaks and goes on higher": lambda: _made(
        sing(
            Voice(
                f0_hz=150.0,
                seconds=3.0,
                glide_to_hz=300.0,
                gaps=((1.2, 0.15),),
                jumps=((1.35, 1.6, 8.0),),
            )
        ),
        "glide",
    ),
    "breaths of half a second": lambda: _made(breathe(in_s=0.5, out_s=0.6), "breath"),
    "breaths close together": lambda: _made(breathe(in_s=1.5, out_s=2.0, between_s=0.16), "breath"),
    "a hum for breath": lambda: _made(sing(_plain(level_db=-40.0)), "breath"),
    "phrases of half a second": lambda: _made(speak(phrase_s=0.5, pause_s=0.8), "level"),
    "a single word": lambda: _made(speak(phrases=1, phrase_s=0.45), "level"),
    "held notes for talk": lambda: _made(sing(_plain(seconds=5.0)), "level"),
    "a hiss for talk": lambda: _made(hiss_to_buzz(_plain(seconds=0.35), hiss_s=3.0), "level"),
    "talk in a loud room": lambda: _made(speak(noise_db=-38.0), "level"),
    "slow bubbles": lambda: _in_water(7.0),
    "fast bubbles": lambda: _in_water(36.0),
    "flat bubbles": lambda: _in_water(16.0, depth_db=0.6),
    "bubbles for a second": lambda: _in_water(16.0, seconds=1.0),
    "voice stops for a second in water": lambda: _voice_stops(1.0),
    "voice stops for two seconds in water": lambda: _voice_stops(2.0),
    "held for a third of a second": lambda: _made(sing(_plain(seconds=0.35)), "hold"),
    "held in a loud room": lambda: _made(sing(_plain(noise_db=-34.0)), "hold"),
    "held after talk": lambda: _made(
        sing(Voice(f0_hz=200.0, seconds=3.0, lead_s=1.6, around=Surroundings(talk_before_s=0.1))),
        "hold",
    ),
    "swell of a second": lambda: _made(sing(_plain(seconds=1.0, swell_db=8.0)), "swell"),
}
"""The attempt for each name: sound, task, target."""
