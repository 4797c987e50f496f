"""Where attempts end, by the purpose of their ticket; measuring itself knows neither."""

from web.clients.usecases.baseline import BaselineEnd
from web.measuring.sinks import End
from web.practice.usecases.save_attempt import PracticeEnd
from web.programs.task_trial import TriedEnd

ENDS: dict[str, End] = {"practice": PracticeEnd(), "baseline": BaselineEnd(), "tried": TriedEnd()}
