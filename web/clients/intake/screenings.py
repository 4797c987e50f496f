"""The screenings of a client as the core's rules read them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, time

from django.db.models import Subquery
from pydantic import TypeAdapter

from core.safety.circumstances import Circumstance, Event, Living
from core.safety.combined_screening import OneScreening, standing
from core.safety.condition import Condition
from core.safety.screening import RedFlag, Screening
from core.safety.state import Airway, Release, VoiceState
from web.clients.models import Baseline, Client, StoredScreening, VoiceReport
from web.clinic.records import reading


def screenings_of(client: Client) -> list[StoredScreening]:
    """Every screening of a client, oldest first, each with the throat strain of the latest baseline. Two of the same
    moment are in the order of the days they were asked on."""
    recorded = Baseline.objects.filter(client=client).exclude(recorded_at=None)
    strain = recorded.order_by("-recorded_at").values("throat_strain")[:1]
    rows = StoredScreening.objects.filter(client=client)
    return list(rows.annotate(throat_strain=Subquery(strain)).order_by("at", "asked_on", "pk"))


def voice_reports(client: Client) -> dict[date, bool]:
    """What the client reported from home: by day, whether the voice was as usual."""
    rows = VoiceReport.objects.filter(client=client).order_by("at")
    return dict(rows.values_list("day", "usual"))


def combined(rows: Sequence[StoredScreening], *, age_years: int) -> Screening | None:
    """The screening in force from all rows, oldest first; None without rows. Raises Unreadable if a row is
    not a valid screening."""
    return standing([_asked(row, age_years=age_years) for row in rows])


def _asked(row: StoredScreening, *, age_years: int) -> OneScreening:
    with reading(row):
        return _read(row, age_years=age_years)


@dataclass(frozen=True)
class _Lists:
    """The columns of a stored screening that hold several answers."""

    red_flags: frozenset[RedFlag]
    unasked: frozenset[RedFlag]
    flags_noted: dict[RedFlag, date]
    conditions: frozenset[Condition]
    mistaken: frozenset[RedFlag]
    voice: VoiceState | None
    airway: Airway | None
    release: Release | None


_LISTS = TypeAdapter(_Lists)
_NAMES = ("red_flags", "unasked", "flags_noted", "conditions", "mistaken")


def _read(row: StoredScreening, *, age_years: int) -> OneScreening:
    lists = _LISTS.validate_python(
        {
            **{name: getattr(row, name) for name in _NAMES},
            "voice": row.voice or None,
            "airway": row.airway or None,
            "release": row.release or None,
        }
    )
    return OneScreening(
        screening=Screening(
            asked_on=row.asked_on,
            larynx_examined_on=row.larynx_examined_on,
            red_flags=lists.red_flags,
            unasked=lists.unasked,
            noted_on=lists.flags_noted,
            cleared_on=row.cleared_on,
            cleared_from=row.cleared_from,
            released_on=row.released_on,
            release=lists.release,
            surgeons_date=row.surgeons_date,
            voice=lists.voice,
            clear_since=row.clear_since,
            usual_voice_since=row.usual_voice_since,
            airway=lists.airway,
            cuff_safe_on=row.cuff_safe_on,
            valve_tolerated_on=row.valve_tolerated_on,
            upper_airway_seen_on=row.upper_airway_seen_on,
            botulinum_on=row.botulinum_on,
            paralysis_since=row.paralysis_since,
            throat_operated_on=row.throat_operated_on,
            movement_examined_on=row.movement_examined_on,
            voice_changing=row.voice_changing,
            tone_heard=row.tone_heard,
            folds_operated_on=row.folds_operated_on,
            looked_at_on=row.looked_at_on,
            voice_rest_until=row.voice_rest_until,
            trouble_began_on=row.trouble_began_on,
            hoarse_weeks=row.hoarse_weeks,
            cold=row.cold,
            hoarser=row.hoarser,
            minor=age_years < 18,
            age_years=age_years,
            throat_strain=getattr(row, "throat_strain", None),
            guardian_consent=row.guardian_consent,
            conditions=lists.conditions,
        ),
        mistaken=lists.mistaken,
    )


def living_of(row: StoredScreening | None) -> Living:
    """The client's living circumstances in a screening."""
    if row is None:
        return Living()
    return Living(
        circumstances=frozenset(Circumstance(name) for name in row.circumstances),
        talking_hours=row.talking_hours,
        events=tuple(Event(on=date.fromisoformat(e["on"]), name=e["name"]) for e in row.events),
        medication_times=tuple(time.fromisoformat(at) for at in row.medication_times),
    )
