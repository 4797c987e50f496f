"""Where a held voice is: shared by the kinds that hold a note."""

from core.sound.held import held_regions, the_hold, with_mistaken_edges, without_tones
from core.sound.kernel import Frames
from core.sound.task_sound import TaskSound, cleared, cleared_voicing, found_in, home_of, strays
from core.sound.voicing import voicing_of


def held_voice(frames: Frames) -> TaskSound:
    """The held voice; where one frame alone may be mistaken in its octave, the pitch that speaks
    most for itself over all of it decides."""
    voicing = cleared_voicing(frames)
    home = home_of(frames, voicing)
    if home is not None and strays(voicing, home):
        voicing = cleared(frames, voicing_of(frames, about_hz=2 ** (home / 12)))
    regions = without_tones(voicing, held_regions(voicing))
    best = the_hold(voicing, regions)
    if best is not None:
        voicing, whole = with_mistaken_edges(voicing, best)
        regions, best = [whole if region is best else region for region in regions], whole
    heard = found_in(regions if best else [], len(frames))
    return TaskSound(heard & voicing.voiced, best, voicing, frames.level_db)
