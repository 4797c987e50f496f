"""What clinicians say of home sessions and attempts, and what is left out of figures by it."""

from django.db.models import OuterRef, Q, QuerySet, Subquery, Value
from django.db.models.functions import Coalesce
from django.db.models.lookups import Exact

from web.practice.models import Attempt, HomeSession, Remark, RemarkKind


def left_out() -> Q:
    """Of attempts: whether the newest word on it, or on its home session, leaves it out."""
    own = _newest(Remark.objects.filter(attempt=OuterRef("pk")))
    whole = _newest(Remark.objects.filter(home_session=OuterRef("home_session"), attempt=None))
    return Q(_is(own)) | Q(_is(whole))


def _newest(rows: QuerySet[Remark]) -> Coalesce:
    judged = rows.exclude(kind=RemarkKind.NOTE).order_by("-at").values("kind")
    return Coalesce(Subquery(judged[:1]), Value(RemarkKind.COUNT_AGAIN.value))


def _is(newest: Coalesce) -> Exact:
    return Exact(newest, Value(RemarkKind.LEAVE_OUT.value))


def remarks_on(session: HomeSession, attempt: Attempt | None = None) -> list[Remark]:
    """What was said of a home session as a whole, or of one attempt; newest first."""
    rows = Remark.objects.filter(home_session=session, attempt=attempt).select_related("by")
    return list(rows.order_by("-at"))


def counts(remarks: list[Remark]) -> bool:
    """Whether what these (newest first) are about still counts."""
    judged = [one for one in remarks if one.kind != RemarkKind.NOTE]
    return not judged or judged[0].kind != RemarkKind.LEAVE_OUT
