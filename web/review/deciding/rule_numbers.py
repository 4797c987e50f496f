"""Numbers of the rules that a clinic or a client has otherwise: who changed them, when and why."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from django.db.models import Q
from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.errors import CoreError
from core.grading.rule import Changed, Rules, numbers, rules
from web.clients.models import Client
from web.clinic.models import Clinic
from web.clinic.refusal import UsecaseRefused
from web.clinic.words import core_words
from web.design.speaking import in_their_words
from web.figures.words import heading_of
from web.review.models import RuleNumber

_WORDS: Mapping[str, Promise] = {
    "climb": gettext_lazy("climb"),
    "ease": gettext_lazy("ease"),
    "teach": gettext_lazy("teach again"),
    "share": gettext_lazy("share of what is asked for, %"),
    "under_share": gettext_lazy("under this share, %"),
    "count": gettext_lazy("so many notes or attempts"),
    "of": gettext_lazy("home sessions looked at"),
    "need": gettext_lazy("home sessions needed"),
    "days": gettext_lazy("spread over days"),
    "on_days": gettext_lazy("on so many days"),
    "least": gettext_lazy("at least"),
    "most": gettext_lazy("at most"),
    "under": gettext_lazy("under"),
    "over": gettext_lazy("over"),
    "over_baseline": gettext_lazy("over the baseline by at most"),
    "own": gettext_lazy("with a tremor, times the own"),
    "contact_strain": gettext_lazy("call at throat strain, 0–10"),
    "days_between_climbs": gettext_lazy("days between two climbs"),
    "kept_to_climb": gettext_lazy("practice kept in 7 days to climb, share of 1"),
    "away_days": gettext_lazy("days away: one rung lower"),
    "away_missed": gettext_lazy("home sessions missed to be away"),
    "probe_days": gettext_lazy("days away: probe again"),
    "flat_days": gettext_lazy("days without a climb: teach again"),
    "flat_sessions": gettext_lazy("home sessions in them"),
    "unchanged_days": gettext_lazy("days without a climb: examine"),
    "unchanged_kept": gettext_lazy("practice kept in them, share of 1"),
    "twice_days": gettext_lazy("days in which twice counts"),
    "taper_back_percent": gettext_lazy("taper: back a stage under, % of the goal"),
    "taper_back_days": gettext_lazy("taper: on so many days"),
    "visits_apart_days": gettext_lazy("days between the visits of a discharge"),
    "pitch_review_semitones": gettext_lazy("semitones of target pitch to a review"),
    "discomfort_rise": gettext_lazy("rise of discomfort, points"),
    "strain_rise": gettext_lazy("rise of throat strain, points"),
    "strain_days": gettext_lazy("days throat strain is looked back over"),
    "strain_answers": gettext_lazy("answers that make the usual throat strain"),
    "strain_high": gettext_lazy("nothing climbs from throat strain"),
    "strain_over_baseline": gettext_lazy("nor over the baseline by more than"),
    "strain_contact": gettext_lazy("call from throat strain"),
    "strain_sessions_since": gettext_lazy("home sessions at the usual after a rise"),
    "strain_floor": gettext_lazy("strain up to this never blocks an advance"),
    "strain_contact_over": gettext_lazy("high baseline strain: call from so much above it"),
    "strain_contact_most": gettext_lazy("high baseline strain: always call from"),
    "strain_nothing_from": gettext_lazy("no advance at all from a baseline strain of"),
    "event_days": gettext_lazy("days before an event without an advance"),
    "event_days_often": gettext_lazy("the same where events are often"),
    "event_often_days": gettext_lazy("events are often when fewer days lie between them"),
    "too_much_share": gettext_lazy("too much practice: share of what was prescribed"),
    "too_much_extra": gettext_lazy("too much practice: at least so many sessions more"),
    "evening_rise": gettext_lazy("evening strain: points above the same morning"),
    "evening_days": gettext_lazy("evening strain: on so many of 7 days"),
}


@dataclass(frozen=True)
class RuleOverrides:
    """The numbers that are otherwise: the clinic's, and the client's own."""

    clinic: Mapping[str, RuleNumber] = field(default_factory=dict)
    client: Mapping[str, RuleNumber] = field(default_factory=dict)

    def values(self) -> dict[str, float]:
        """Those in force by their path, the client's before the clinic's."""
        return {**_plain(self.clinic), **_plain(self.client)}

    def with_number(self, path: str, value: float | None, *, own: bool) -> dict[str, float]:
        """Those in force if this were set, or (None) taken back: as the client's own, or the clinic's."""
        clinic, client = _plain(self.clinic), _plain(self.client)
        whose = client if own else clinic
        if value is None:
            whose.pop(path, None)
        else:
            whose[path] = value
        return {**clinic, **client}


def _plain(rows: Mapping[str, RuleNumber]) -> dict[str, float]:
    return {path: row.value for path, row in rows.items() if row.value is not None}


def rule_overrides(clinic: Clinic, client: Client | None = None) -> RuleOverrides:
    """What stands now, the newest of each path; a number that was taken back is left out."""
    whose = Q(client=None) if client is None else Q(client=None) | Q(client=client)
    rows = RuleNumber.objects.filter(whose, clinic=clinic).select_related("by").order_by("at")
    by_client = _by_client(rows)
    return RuleOverrides(by_client.get(None, {}), by_client.get(client.pk, {}) if client else {})


def _by_client(rows: Iterable[RuleNumber]) -> dict[Any, dict[str, RuleNumber]]:
    """Of rows in order of time the newest of each path that stands, by the client it is of, None = the
    clinic's."""
    found: dict[Any, dict[str, RuleNumber]] = {}
    for row in rows:
        own = found.setdefault(row.client_id, {})
        if row.value is None:
            own.pop(row.path, None)
        else:
            own[row.path] = row
    return found


def rules_with(values: Mapping[str, float]) -> Rules:
    """The rules with these numbers; UsecaseRefused for what cannot be."""
    try:
        return rules([Changed(path, value) for path, value in values.items()])
    except CoreError as error:
        raise UsecaseRefused(core_words(error)) from error


@dataclass(frozen=True)
class NumberLine:
    """One number of the page: what it is in words, as shipped, the clinic's and the client's own."""

    path: str
    words: str
    shipped: float
    clinic: RuleNumber | None
    client: RuleNumber | None


def number_lines(found: RuleOverrides) -> list[tuple[str, list[NumberLine]]]:
    """Every number of every rule, rule by rule under its name."""
    lines: dict[str, list[NumberLine]] = {}
    for path, value in numbers(rules()).items():
        rule, *rest = path.split(".")
        line = NumberLine(
            path, number_words(rest), value, found.clinic.get(path), found.client.get(path)
        )
        lines.setdefault(rule, []).append(line)
    return [(rule_name(rule), own) for rule, own in lines.items()]


def number_words(rest: list[str]) -> str:
    """What a number is: its place within a rule in words."""
    figure = rest[2] if len(rest) > 2 else ""
    told = [heading_of(part) if part == figure else str(_WORDS[part]) for part in _told(rest)]
    return f"{told[0]}: {', '.join(told[1:])}" if len(told) > 1 else told[0]


def _told(rest: list[str]) -> list[str]:
    return [part for part in rest if part not in ("when", "besides")]


def rule_name(path: str) -> str:
    """The name of the rule a number is of."""
    code = path.split(".")[0]
    names = {rule.code: in_their_words(rule.name) for rule in rules().steps}
    return names.get(code, str(_("every step")))
