"""The fitters by the name a school uses."""

from core.fitting import fit_breath, fit_counted, fit_loudness, fit_range, fit_sustained
from core.fitting.fit_semi_occluded import forms
from core.fitting.fitted import Fitter

FITTERS: dict[str, Fitter] = {
    "ladder_warm_up": fit_sustained.ladder_warm_up,
    "ladder_up": fit_sustained.ladder_up,
    "ladder_down": fit_sustained.ladder_down,
    "ladder_power": fit_sustained.ladder_power,
    "pace": fit_breath.pace,
    "hiss": fit_breath.hiss,
    "join": fit_breath.join,
    "breath_hold": fit_breath.breath_hold,
    "forms": forms,
    "strong_holds": fit_loudness.strong_holds,
    "strong_glides": fit_loudness.strong_glides,
    "strong_speech": fit_loudness.strong_speech,
    "plain_speech": fit_loudness.plain_speech,
    "pattern": fit_range.pattern,
    "falling": fit_range.falling,
    "target_pitch_hold": fit_range.target_pitch_hold,
    "target_pitch_phrases": fit_range.target_pitch_phrases,
    "timed": fit_counted.timed,
    "counted": fit_counted.counted,
}
