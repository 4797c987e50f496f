"""From all frames of an attempt to the figures of a hold, a hiss or a glide; runs once, at stop."""

import numpy as np

from core.notes.note import Note, cents_from
from core.sound.figures import Break, Contour, Figures, Glide, Verdict
from core.sound.kernel import EDGES, HOP_S, Frames
from core.sound.quality import judge
from core.sound.stretches import MIN_BREAK_S, Stretch, longest_stretch, runs, task_frames
from core.sound.tasks import Measured

JUMP_SEMITONES = 4.0
EDGE_BELOW_MEDIAN_DB = 20.0
_TRIM_S = 0.2
_CLEAR = round(0.1 * EDGES / HOP_S)
_OVER_ROOM_DB = 6.0


def figures(
    frames: Frames, task: Measured, *, target: Note | None = None, a4_hz: float = 440.0
) -> Figures:
    """The numbers of one attempt.

    frames: the kernel's frames of the whole sound; target: note to hold, if any; a4_hz: concert
    pitch in Hz. Never raises for what was sung: silence gives hold_s 0, unusable sound None.
    Edges: where the 10 ms envelope crosses −20 dB of the hold's median.
    """
    heard = task_frames(frames, task)
    contour = Contour(
        f0_hz=np.where(heard & ~np.isnan(frames.f0_hz), frames.f0_hz, np.nan),
        level_db=frames.level_db,
    )
    name = target.name if target else None
    stretch = longest_stretch(frames, heard)
    quality = judge(frames, heard, stretch)
    if stretch is None or quality.verdict is Verdict.NOT_MEASURABLE:
        hold_s = 0.0 if stretch is None and quality.verdict is not Verdict.NOT_MEASURABLE else None
        return Figures(
            task=task.value, target=name, quality=quality, contour=contour, hold_s=hold_s
        )
    onset_s, offset_s = _edges(frames, stretch)
    inside = np.zeros(len(frames), dtype=bool)
    inside[stretch.first : stretch.last + 1] = True
    voiced = inside & heard & ~np.isnan(frames.f0_hz)
    pitch = frames.f0_hz[voiced] if task is not Measured.HISS else np.zeros(0)
    level = frames.level_db[inside & heard]
    return Figures(
        task=task.value,
        target=name,
        quality=quality,
        contour=contour,
        hold_s=offset_s - onset_s,
        onset_s=onset_s,
        offset_s=offset_s,
        breaks=_breaks(frames, heard, stretch, task),
        **_pitch_figures(pitch, target, a4_hz),
        level_mean_db=float(10 * np.log10(np.mean(10 ** (level / 10)))),
        level_sd_db=float(_middle_part(frames.level_db, stretch).std()),
        slope_db_per_s=_slope(frames.level_db, onset_s, offset_s),
        trail_off_db=_trail_off(frames.level_db, onset_s, offset_s),
        glide=_glide(pitch) if task is Measured.GLIDE else None,
    )


def _edges(frames: Frames, stretch: Stretch) -> tuple[float, float]:
    """Onset and offset in seconds on the 2.5 ms envelope."""
    envelope = frames.edge_db.ravel()
    step = HOP_S / EDGES
    first, last = stretch.first * EDGES, stretch.last * EDGES + EDGES - 1
    middle = float(np.median(envelope[first : last + 1]))
    over = envelope >= max(middle - EDGE_BELOW_MEDIAN_DB, _noise_edge(envelope, first, last))
    reach = int(0.08 / step)
    start, end = _first_over(over, first, last), _last_over(over, first, last)
    while start > 0 and start > first - reach and over[start - 1]:
        start -= 1
    while end < len(over) - 1 and end < last + reach and over[end + 1]:
        end += 1
    zero = -HOP_S / 2
    return max(zero + start * step, 0.0), zero + (end + 1) * step


def _noise_edge(envelope: np.ndarray, first: int, last: int) -> float:
    """Where the envelope stands clear of the room, dBFS: 6 dB over its median beside the hold."""
    clear = np.concatenate((envelope[: max(first - _CLEAR, 0)], envelope[last + 1 + _CLEAR :]))
    return float(np.median(clear)) + _OVER_ROOM_DB if len(clear) >= _CLEAR else -np.inf


def _first_over(over: np.ndarray, first: int, last: int) -> int:
    inside = np.flatnonzero(over[first : last + 1])
    return first + int(inside[0]) if len(inside) else first


def _last_over(over: np.ndarray, first: int, last: int) -> int:
    inside = np.flatnonzero(over[first : last + 1])
    return first + int(inside[-1]) if len(inside) else last


def _pitch_figures(
    pitch_hz: np.ndarray, target: Note | None, a4_hz: float
) -> dict[str, float | None]:
    if len(pitch_hz) < 3:
        return {"f0_median_hz": None, "f0_sd_semitones": None, "pitch_error_cents": None}
    median = float(np.median(pitch_hz))
    cents = cents_from(pitch_hz, median)
    usual = cents[np.abs(cents) < 100 * JUMP_SEMITONES]
    error = cents_from(np.array([median]), target.hz(a4_hz))[0] if target else None
    return {
        "f0_median_hz": median,
        "f0_sd_semitones": float(usual.std() / 100),
        "pitch_error_cents": None if error is None else float(error),
    }


def _breaks(
    frames: Frames, heard: np.ndarray, stretch: Stretch, task: Measured
) -> tuple[Break, ...]:
    silent = ~heard[stretch.first : stretch.last + 1]
    gaps = [
        Break((stretch.first + a) * HOP_S, (stretch.first + b) * HOP_S, "gap")
        for a, b in runs(silent)
        if (b - a) * HOP_S >= MIN_BREAK_S - 1e-9
    ]
    if task is not Measured.HOLD:
        return tuple(gaps)
    found = gaps + _jumps(frames.f0_hz, heard, stretch)
    return tuple(sorted(found, key=lambda b: b.start_s))


def _jumps(f0_hz: np.ndarray, heard: np.ndarray, stretch: Stretch) -> list[Break]:
    """Steps of 4 semitones and more between the 50 ms before and the 50 ms after."""
    at = np.flatnonzero(heard[stretch.first : stretch.last + 1]) + stretch.first
    at = at[~np.isnan(f0_hz[at])]
    if len(at) < 12:
        return []
    semitones = 12 * np.log2(f0_hz[at])
    windows = np.lib.stride_tricks.sliding_window_view(semitones, 5)
    middles = np.median(windows, axis=1)
    steps = np.abs(middles[5:] - middles[:-5])
    wide = steps >= JUMP_SEMITONES
    return [
        Break(time, time, "jump")
        for a, b in runs(wide)
        for time in [float(at[a + int(steps[a:b].argmax()) + 5] * HOP_S)]
    ]


def _middle_part(level_db: np.ndarray, stretch: Stretch) -> np.ndarray:
    trim = int(_TRIM_S / HOP_S)
    part = level_db[stretch.first + trim : stretch.last + 1 - trim]
    return part if len(part) >= 5 else level_db[stretch.first : stretch.last + 1]


def _slope(level_db: np.ndarray, onset_s: float, offset_s: float) -> float | None:
    """Straight line through the level from onset + 0.2 s to offset − 0.2 s, dB/s."""
    first = int(np.ceil((onset_s + _TRIM_S) / HOP_S))
    last = int((offset_s - _TRIM_S) / HOP_S)
    if last - first < 10:
        return None
    seconds = np.arange(first, last + 1) * HOP_S
    return float(np.polyfit(seconds, level_db[first : last + 1], 1)[0])


def _trail_off(level_db: np.ndarray, onset_s: float, offset_s: float) -> float | None:
    """Last fifth − first fifth of the hold, dB; negative = fading."""
    first, last = int(np.ceil((onset_s + 0.025) / HOP_S)), int((offset_s - 0.025) / HOP_S)
    fifth = (last - first + 1) // 5
    if fifth < 3:
        return None
    start, end = level_db[first : first + fifth], level_db[last + 1 - fifth : last + 1]
    return float(end.mean() - start.mean())


def _glide(pitch_hz: np.ndarray) -> Glide | None:
    if len(pitch_hz) < 10:
        return None
    low, high = np.percentile(pitch_hz, [1, 99])
    fifth = max(len(pitch_hz) // 5, 1)
    upward = np.median(pitch_hz[-fifth:]) > np.median(pitch_hz[:fifth])
    return Glide(
        low_hz=float(low),
        high_hz=float(high),
        span_semitones=float(12 * np.log2(high / low)),
        direction="up" if upward else "down",
    )
