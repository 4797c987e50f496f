"""How the voice begins: soft, hard or breathy, on the 2.5 ms envelope."""

import numpy as np
from scipy.ndimage import uniform_filter1d

from core.sound.edges import STEP_S
from core.sound.held import Region
from core.sound.kernel import EDGES, HOP_S, Frames

HARD_WITHIN_S = 0.0105
_BREATH_S = 0.06
_BREATH_UNDER_DB = 32.0
_OVER_ROOM_DB = 6.0
_ROOM_UNDER_DB = 26.0
_SMOOTH = round(0.025 / STEP_S)
_SETTLED_S = (0.06, 0.16)


def onset_kind(frames: Frames, region: Region, onset_s: float, room: float) -> str | None:
    """ "soft", "hard" or "breathy"; None where the room (dBFS) is less than 26 dB under the voice.

    Hard: from −20 to −3 dB of the level 60–160 ms after the onset in 10.5 ms or less. Breathy:
    60 ms and more of breath before the voice, not more than 32 dB under it.
    """
    envelope = frames.edge_db.ravel()
    onset = round((onset_s + HOP_S / 2) / STEP_S)
    settled = envelope[
        onset + round(_SETTLED_S[0] / STEP_S) : onset + round(_SETTLED_S[1] / STEP_S)
    ]
    if len(settled) < 20 or onset < 2 * EDGES:
        return None
    level = float(np.median(settled))
    if level - room < _ROOM_UNDER_DB:
        return None
    before = envelope[max(onset - round(0.25 / STEP_S), 0) : onset]
    before = 10 * np.log10(uniform_filter1d(10 ** (before / 10), _SMOOTH, mode="nearest"))
    breath = before > max(level - _BREATH_UNDER_DB, room + _OVER_ROOM_DB)
    lasting = len(breath) if breath.all() else int(breath[::-1].argmin())
    if lasting * STEP_S >= _BREATH_S:
        return "breathy"
    rise = envelope[onset : onset + round(0.3 / STEP_S)]
    risen = np.flatnonzero(rise >= level - 3)
    return "hard" if len(risen) and risen[0] * STEP_S <= HARD_WITHIN_S else "soft"
