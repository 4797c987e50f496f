"""The figures of one sound that goes on from onset to offset: hold, glide, hiss, bubbles, pattern."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from core.kinds.aim import AttemptTarget
from core.kinds.settings import WHOLE
from core.notes.note import Note, cents_from
from core.sound.breaks import gaps_in, jumps_in
from core.sound.edges import edges_of
from core.sound.figures import Break, Contour, Figures, Glide, QualityVerdict
from core.sound.held import Region
from core.sound.kernel import HOP_S, Frames
from core.sound.onset import onset_kind
from core.sound.pitch_refinement import refined
from core.sound.quality import judge, room_level
from core.sound.settings.breaks import BREAK
from core.sound.task_figures import TaskFigures
from core.sound.task_sound import TaskSound
from core.sound.tremor import tremor_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Heard:
    """An attempt with its ends known: what a kind's own figures are made of. Seconds, Hz."""

    frames: Frames
    sound: TaskSound
    region: Region
    onset_s: float
    offset_s: float
    target: AttemptTarget | None
    a4_hz: float


Path = Callable[[np.ndarray, Region, list[Break], tuple[float, float]], Glide | None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Ways:
    """What is looked for in a sound of this kind.

    pitched: a pitch of the whole; onset: how a voice begins; jumps, tremor: in a held note;
    least_gap_s: shorter gaps are no breaks; path: where a slide goes; own: figures of its own.
    """

    pitched: bool = True
    onset: bool = True
    jumps: bool = False
    tremor: bool = False
    least_gap_s: float = 0.0
    path: Path | None = None
    own: Callable[[Heard], TaskFigures | None] | None = None


def sounding(
    task: str,
    frames: Frames,
    sound: TaskSound,
    target: AttemptTarget | None,
    a4_hz: float,
    ways: Ways,
) -> Figures:
    """The numbers of one attempt at a task whose own sound was found."""
    pitch_hz = sound.pitch_hz
    name = target.name if target else None
    quality = judge(frames, sound)
    if sound.region is None or quality.verdict is QualityVerdict.NOT_MEASURABLE:
        lost = quality.verdict is QualityVerdict.NOT_MEASURABLE
        return Figures(
            task=task,
            target=name,
            quality=quality,
            contour=Contour(f0_hz=pitch_hz, level_db=frames.level_db),
            hold_s=None if lost else 0.0,
        )
    region = sound.region
    inside = slice(region.first, region.after)
    onset_s, offset_s = edges_of(frames, sound, region)
    room = room_level(sound)
    gaps = gaps_in(frames, sound.heard, region, onset_s, offset_s, room)
    as_framed_hz = _within(pitch_hz, region, onset_s, offset_s)
    pitch_hz = 2 ** (refined(12 * np.log2(as_framed_hz)) / 12)
    jumps = jumps_in(sound.voicing.semitones, region, gaps) if ways.jumps else []
    gaps = [gap for gap in gaps if gap.end_s - gap.start_s >= ways.least_gap_s]
    voiced = pitch_hz[inside]
    level = _Level.of(sound, room, onset_s, offset_s)
    heard = Heard(
        frames=frames,
        sound=sound,
        region=region,
        onset_s=onset_s,
        offset_s=offset_s,
        target=target,
        a4_hz=a4_hz,
    )
    return Figures(
        task=task,
        target=name,
        quality=quality,
        contour=Contour(f0_hz=pitch_hz, level_db=frames.level_db),
        hold_s=offset_s - onset_s,
        onset_s=onset_s,
        offset_s=offset_s,
        breaks=tuple(sorted(gaps + jumps, key=lambda b: b.start_s)),
        **_pitch_figures(voiced[~np.isnan(voiced)], target, a4_hz, known=ways.pitched),
        level_mean_db=level.mean_db,
        level_sd_db=level.sd_db,
        slope_db_per_s=level.slope_db_per_s,
        trail_off_db=level.trail_off_db,
        room_db=room if np.isfinite(room) else None,
        tremor=tremor_of(as_framed_hz[inside]) if ways.tremor else None,
        onset=onset_kind(frames, region, onset_s, room) if ways.onset else None,
        glide=ways.path(pitch_hz, region, gaps, (onset_s, offset_s)) if ways.path else None,
        own=ways.own(heard) if ways.own else None,
    )


def _within(pitch_hz: np.ndarray, region: Region, onset_s: float, offset_s: float) -> np.ndarray:
    """The pitch between onset and offset only: echoes and breath outside are removed."""
    time = np.arange(len(pitch_hz)) * HOP_S
    outside = (time < onset_s - HOP_S) | (time > offset_s + HOP_S)
    outside[: region.first] = outside[region.after :] = False
    return np.where(outside, np.nan, pitch_hz)


def _pitch_figures(
    pitch_hz: np.ndarray, target: AttemptTarget | None, a4_hz: float, *, known: bool
) -> dict[str, float | None]:
    if len(pitch_hz) < 3 or not known:
        return {"f0_median_hz": None, "f0_sd_semitones": None, "pitch_error_cents": None}
    median = float(np.median(pitch_hz))
    cents = cents_from(pitch_hz, median)
    usual = cents[np.abs(cents) < 100 * BREAK.jump_semitones]
    usual = usual if len(usual) else cents
    error = (
        cents_from(np.array([median]), target.hz(a4_hz))[0] if isinstance(target, Note) else None
    )
    return {
        "f0_median_hz": median,
        "f0_sd_semitones": float(usual.std() / 100),
        "pitch_error_cents": None if error is None else float(error),
    }


@dataclass(frozen=True, slots=True, kw_only=True)
class _Level:
    """Level of the voice itself, its room taken off, in dBFS and dB."""

    mean_db: float
    sd_db: float | None
    slope_db_per_s: float | None
    trail_off_db: float | None

    @classmethod
    def of(cls, sound: TaskSound, room: float, onset_s: float, offset_s: float) -> "_Level":
        power = 10 ** (sound.level_db / 10)
        clear = sound.level_db > room + WHOLE.room_too_near_db
        own = np.where(clear, power - 10 ** (room / 10), power)
        level_db = 10 * np.log10(np.maximum(own, 1e-12))
        first = int(np.ceil((onset_s + WHOLE.ends_left_out_s) / HOP_S))
        after = int((offset_s - WHOLE.ends_left_out_s) / HOP_S) + 1
        if after - first < WHOLE.least_at_end and sound.region:
            first, after = sound.region.first, sound.region.after
        inner = np.arange(first, min(after, len(level_db)))
        inner = inner[sound.heard[inner] & clear[inner]] if sound.heard[inner].any() else inner
        trim = inner[
            (inner * HOP_S >= onset_s + WHOLE.trimmed_s)
            & (inner * HOP_S <= offset_s - WHOLE.trimmed_s)
        ]
        fifth = (offset_s - onset_s) / 5
        early = inner[inner * HOP_S <= onset_s + fifth]
        late = inner[inner * HOP_S >= offset_s - fifth]
        enough = len(trim) >= WHOLE.least_for_level
        return cls(
            mean_db=float(10 * np.log10(np.mean(own[inner]))),
            sd_db=float(level_db[trim].std()) if enough else None,
            slope_db_per_s=float(np.polyfit(trim * HOP_S, level_db[trim], 1)[0])
            if enough
            else None,
            trail_off_db=float(level_db[late].mean() - level_db[early].mean())
            if min(len(early), len(late)) >= WHOLE.least_at_end
            else None,
        )
