"""How the voice begins: soft, hard or breathy, on the 2.5 ms envelope."""

import numpy as np
from scipy.ndimage import uniform_filter1d

from core.sound.edges import STEP_S
from core.sound.held import Region
from core.sound.kernel import EDGES, HOP_S, Frames
from core.sound.settings.onset import ONSET


def onset_kind(frames: Frames, region: Region, onset_s: float, room: float) -> str | None:
    """ "soft", "hard" or "breathy"; None where the room (dBFS) is less than 26 dB under the voice.

    Hard: from −20 to −3 dB of the level 60–160 ms after the onset in 10.5 ms or less. Breathy:
    60 ms and more of breath before the voice, not more than 32 dB under it.
    """
    envelope = frames.edge_db.ravel()
    onset = round((onset_s + HOP_S / 2) / STEP_S)
    settled = envelope[
        onset + round(ONSET.settled_from_s / STEP_S) : onset + round(ONSET.settled_to_s / STEP_S)
    ]
    if len(settled) < ONSET.least_settled or onset < 2 * EDGES:
        return None
    level = float(np.median(settled))
    if level - room < ONSET.room_under_db:
        return None
    before = envelope[max(onset - round(ONSET.breath_look_s / STEP_S), 0) : onset]
    before = 10 * np.log10(uniform_filter1d(10 ** (before / 10), ONSET.smoothed, mode="nearest"))
    breath = before > max(level - ONSET.breath_under_db, room + ONSET.over_room_db)
    lasting = len(breath) if breath.all() else int(breath[::-1].argmin())
    if lasting * STEP_S >= ONSET.least_breath_s:
        return "breathy"
    rise = envelope[onset : onset + round(ONSET.rise_look_s / STEP_S)]
    risen = np.flatnonzero(rise >= level - ONSET.risen_db)
    return "hard" if len(risen) and risen[0] * STEP_S <= ONSET.hard_within_s else "soft"
