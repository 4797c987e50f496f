"""Where attempts end, by the purpose of their ticket; measuring itself knows neither."""

from web.clients.usecases.baseline import BaselineSink
from web.measuring.sinks import AttemptSink
from web.practice.usecases.save_attempt import PracticeSink
from web.programs.task_trial import TrialSink

ENDS: dict[str, AttemptSink] = {
    "practice": PracticeSink(),
    "baseline": BaselineSink(),
    "tried": TrialSink(),
}
