"""A large clinic for `./reed bench pages`: the demo's clients many times over, by the database itself.

Every copy is a whole record with ids of its own, made from the ids it was copied from, so that the
same numbers give the same clinic.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from django.apps import apps
from django.db import connection, models, transaction

from web.clients.models import Client
from web.clinic.models import Clinic, Membership
from web.clinic.records import ClinicRecord
from web.measuring.models import Measurement
from web.practice.models import Attempt, Entry, HomeSession
from web.review.models import SessionResult

BACK = timedelta(days=70)
"""Earlier practice is the demo's practice so many days before, once, twice and so on."""
_PRACTICE: tuple[type[ClinicRecord], ...] = (
    Measurement,
    HomeSession,
    Attempt,
    Entry,
    SessionResult,
)
_LEFT_OUT = ("StoredContour",)
_EARLIER = "'earlier '"


@contextmanager
def _without_history() -> Iterator[None]:
    """The triggers that keep history, and those that forbid changes, off and on again."""
    tables = [model._meta.db_table for model in _cloned()]
    for turn in ("DISABLE", "ENABLE"):
        with connection.cursor() as cursor:
            for table in tables:
                cursor.execute(f'ALTER TABLE "{table}" {turn} TRIGGER USER')
        if turn == "DISABLE":
            with transaction.atomic():
                yield


def grow(*, clients: int, attempts: int) -> tuple[int, int]:
    """Make the demo's clinic so large, half of it the first clinician's; how many clients and attempts
    there are then. ValueError where it would have to shrink."""
    own = Client.objects.count()
    if clients < own:
        raise ValueError(f"the demo has {own} clients already")
    clinic = Clinic.objects.get()
    wanted = attempts * own / clients
    times = max(0, round(wanted / Attempt.objects.count()) - 1)
    with _without_history():
        for table in _PRACTICE:
            _copy_earlier(table, times, BACK)
        for model in _cloned():
            _copy_clients(model, clients - own, own)
        _share_out(clinic)
    return Client.objects.count(), Attempt.objects.count()


def two_years(client: Client) -> int:
    """Give a client practice on most days of two years, once; how many home sessions they have then."""
    sessions = HomeSession.objects.filter(client=client)
    if sessions.count() > 500:
        return sessions.count()
    with _without_history():
        for table in _PRACTICE:
            _copy_earlier(table, 26, timedelta(days=28), only=client)
    return sessions.count()


def _cloned() -> list[type[models.Model]]:
    """The client and every table with rows of clients; those the practice of others points to first."""
    tables = [
        model
        for model in apps.get_models()
        if issubclass(model, ClinicRecord)
        and not hasattr(model, "pgh_tracked_model")
        and model.__name__ not in _LEFT_OUT
        and any(field.attname == "client_id" for field in model._meta.concrete_fields)
    ]
    return [Client, *tables]


def _copied(field: models.Field, among: set[type[models.Model]], mark: str) -> str:
    """What a copy has in a column: ids that are copied too are made from the old one and the mark."""
    column = f't."{field.column}"'
    points_to = field.related_model if field.is_relation else None
    is_own = field.primary_key or points_to in among or field.attname == "client_id"
    if is_own and not (field.attname == "client_id" and Client not in among):
        return f"md5({column}::text || {mark})::uuid"
    return column


def _insert(
    model: type[models.Model], values: dict[str, str], source: str, params: list[Any]
) -> None:
    table = model._meta.db_table
    names = ", ".join(f'"{name}"' for name in values)
    with connection.cursor() as cursor:
        cursor.execute(
            f'INSERT INTO "{table}" ({names}) SELECT {", ".join(values.values())} FROM {source}',
            params,
        )


def _copy_clients(model: type[models.Model], more: int, own: int) -> None:
    """So many more clients: each of the demo's in turn."""
    among = set(_cloned())
    values = {
        str(field.column): _copied(field, among, "n.k") for field in model._meta.concrete_fields
    }
    if model is Client:
        values["name"] = "t.name || ' ' || n.k"
    owner = "id" if model is Client else "client_id"
    source = (
        f'"{model._meta.db_table}" t JOIN (SELECT id, row_number() OVER (ORDER BY name) - 1 AS place'
        f' FROM "{Client._meta.db_table}" WHERE name !~ \' [0-9]+$\') c ON c.id = t."{owner}"'
        " JOIN generate_series(1, %s) n(k) ON (n.k - 1) * %s + c.place < %s"
    )
    _insert(model, values, source, [-(-more // own), own, more])


def _copy_earlier(
    model: type[ClinicRecord], times: int, back: timedelta, *, only: Client | None = None
) -> None:
    """Copies of the practice history, each shifted further into the past; stop signs
    were not said then."""
    values = {}
    for field in model._meta.concrete_fields:
        copied = _copied(field, set(_PRACTICE), f"{_EARLIER} || n.k")
        if isinstance(field, models.DateTimeField):
            copied += f" - n.k * interval '{back.days} days'"
        elif isinstance(field, models.DateField):
            copied += f" - n.k * {back.days}"
        values[str(field.column)] = "''" if field.name == "stop_sign" else copied
    source = f'"{model._meta.db_table}" t CROSS JOIN generate_series(1, %s) n(k)'
    params: list[Any] = [times]
    if only is not None:
        source, params = f"{source} WHERE t.client_id = %s", [times, only.pk]
    _insert(model, values, source, params)


def _share_out(clinic: Clinic) -> None:
    """Half of the clients to the clinic's lead, the others to everybody else in turn."""
    lead, *others = Membership.objects.filter(clinic=clinic).order_by("-role", "user__email")
    with connection.cursor() as cursor:
        cursor.execute(
            f'UPDATE "{Client._meta.db_table}" c SET clinician_id = '
            "CASE WHEN r.place %% 2 = 0 THEN %s ELSE %s END "
            f'FROM (SELECT id, row_number() OVER (ORDER BY name) AS place FROM "{Client._meta.db_table}") r '
            "WHERE r.id = c.id",
            [lead.user_id, (others or [lead])[0].user_id],
        )
        cursor.execute("ANALYZE")
