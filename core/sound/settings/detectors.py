"""The settings of every detector, by the module in `core/sound` that works with them."""

from typing import Any

from core.sound.settings.breaks import BREAK
from core.sound.settings.candidates import CANDIDATE
from core.sound.settings.edges import EDGE
from core.sound.settings.held import HELD
from core.sound.settings.hiss import HISS
from core.sound.settings.home import HOME
from core.sound.settings.losses import LOSS
from core.sound.settings.onset import ONSET
from core.sound.settings.path import PATH
from core.sound.settings.quality import QUALITY
from core.sound.settings.refinement import REFINEMENT
from core.sound.settings.standing_tone import STANDING_TONE
from core.sound.settings.steadiness import STEADINESS
from core.sound.settings.tremor import TREMOR

DETECTORS: dict[str, Any] = {
    "candidates": CANDIDATE,
    "path": PATH,
    "background": STANDING_TONE,
    "steadiness": STEADINESS,
    "held": HELD,
    "edges": EDGE,
    "breaks": BREAK,
    "onset": ONSET,
    "tremor": TREMOR,
    "hiss": HISS,
    "losses": LOSS,
    "quality": QUALITY,
    "pitch_refinement": REFINEMENT,
    "task_sound": HOME,
}
