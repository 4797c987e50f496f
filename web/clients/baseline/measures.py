"""What is tried at a baseline: how each measure is asked for, measured and aimed."""

from dataclasses import dataclass
from functools import cached_property

from django.utils.functional import Promise
from django.utils.translation import gettext_lazy as _

from core.catalogue.reading import HARBOUR_MORNING
from core.catalogue.touches import Touch
from core.errors import CoreError
from core.kinds.aim import AttemptTarget
from core.kinds.breath.aim import PaceTarget
from core.kinds.level.aim import LevelTarget
from core.kinds.pattern.aim import PatternTarget
from core.notes.note import Note
from core.notes.range import VoiceGroup
from web.clients.baseline.view import probe_notes
from web.clients.models import Baseline, Measure

PATTERN_DEGREES = (0, 2, 4, 5, 7, 5, 4, 2, 0)
PATTERN_STARTS = {VoiceGroup.MEN: "C3", VoiceGroup.WOMEN: "C4", VoiceGroup.CHILDREN: "C4"}
_ABOVE_LOWEST = 3
PACE = PaceTarget(in_s=2.4, out_s=4.8)


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureTask:
    """The standard words for a measure, its task, how many attempts are wanted, and whether its
    seconds may be typed instead."""

    task: str
    words: str | Promise
    wanted: int
    typed: bool = False
    touches: frozenset[Touch] = frozenset()


_SOFT = _(
    "“Take an easy breath. Hold the note as soft and as steady as you can, while it stays so.”"
)

ASKED: dict[str, MeasureTask] = {
    Measure.REFERENCE: MeasureTask(
        task="hold",
        words=_("“Wait two seconds, then hold ‘ah’ for four seconds, as you talk across a table.”"),
        wanted=1,
    ),
    Measure.CONVERSATION: MeasureTask(
        task="level",
        words=_("“Tell me how you came here today, in your usual voice, for half a minute.”"),
        wanted=1,
    ),
    Measure.READING: MeasureTask(
        task="level", words=_("“Read this aloud in your usual voice.”"), wanted=1
    ),
    Measure.GLIDE_UP: MeasureTask(
        task="glide",
        words=_("“Slide on ‘oh’ from your lowest easy note up to your highest easy note.”"),
        wanted=2,
    ),
    Measure.GLIDE_DOWN: MeasureTask(
        task="glide",
        words=_("“Slide on ‘oh’ from your highest easy note down to your lowest easy note.”"),
        wanted=2,
    ),
    Measure.PHONATION: MeasureTask(
        task="hold",
        words=_("“Take a deep breath and hold ‘ah’ as long as you can, at an easy pitch.”"),
        wanted=3,
        typed=True,
    ),
    Measure.STRONG: MeasureTask(
        task="hold",
        words=_(
            "“Breathe in well. Say ‘ah’, strong and even, effort 7 to 9 of 10, not shouted, as long as it stays so.”"
        ),
        wanted=0,
        typed=True,
    ),
    Measure.S: MeasureTask(
        task="hiss",
        words=_("“Take a deep breath and hold ‘sss’ as long as you can.”"),
        wanted=2,
        typed=True,
    ),
    Measure.Z: MeasureTask(
        task="hold",
        words=_("“Take a deep breath and hold ‘zzz’ as long as you can.”"),
        wanted=2,
        typed=True,
    ),
    Measure.PROBE_LOW: MeasureTask(task="hold", words=_SOFT, wanted=2, typed=True),
    Measure.PROBE_MIDDLE: MeasureTask(task="hold", words=_SOFT, wanted=2, typed=True),
    Measure.PROBE_TOP: MeasureTask(task="hold", words=_SOFT, wanted=2, typed=True),
    Measure.BUBBLES: MeasureTask(
        task="bubbles",
        words=_(
            "“Bubble a comfortable note through the tube in water, evenly.” No water where swallowing is unsafe."
        ),
        wanted=0,
        touches=frozenset({Touch.WATER}),
    ),
    Measure.JOIN: MeasureTask(
        task="sz",
        words=_("“Hiss, and let the hiss turn into a buzz without a stop.”"),
        wanted=0,
    ),
    Measure.PATTERN: MeasureTask(
        task="pattern",
        words=_("“Sing the pattern up and down on ‘oo’, softly, one note after the other.”"),
        wanted=0,
    ),
    Measure.BREATH: MeasureTask(
        task="breath",
        words=_("“Breathe in for 4 beats and out for 8, three times, so that it can be heard.”"),
        wanted=0,
    ),
}


class Aims:
    """The targets of a baseline's measures, as far as its range and levels are known."""

    def __init__(self, baseline: Baseline, *, reference_dbfs: float | None = None) -> None:
        self._baseline, self._reference_dbfs = baseline, reference_dbfs

    @cached_property
    def _probes(self) -> dict[str, Note]:
        return probe_notes(self._baseline)

    def of(self, measure: str) -> AttemptTarget | None:
        """What an attempt at the measure aims at; None for no aim."""
        if measure == Measure.PATTERN:
            return self._pattern()
        if measure == Measure.READING:
            return LevelTarget(reference_db=self._reference_dbfs, words=HARBOUR_MORNING.words)
        if measure == Measure.BREATH:
            return PACE
        return self._probes.get(measure)

    def tone(self, measure: str) -> Note | None:
        """The note to play before an attempt."""
        aim = self.of(measure)
        if isinstance(aim, PatternTarget):
            return aim.notes[0]
        return aim if isinstance(aim, Note) else None

    def _pattern(self) -> PatternTarget:
        comfort = self._baseline.comfort
        group = VoiceGroup(self._baseline.client.voice_group)
        start = comfort.lowest.up(_ABOVE_LOWEST) if comfort else Note.named(PATTERN_STARTS[group])
        try:
            return PatternTarget(tuple(start.up(degree) for degree in PATTERN_DEGREES))
        except CoreError:
            start = Note.named(PATTERN_STARTS[group])
            return PatternTarget(tuple(start.up(degree) for degree in PATTERN_DEGREES))
