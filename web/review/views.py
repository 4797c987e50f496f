"""Rounds, the Client page, export."""

from zoneinfo import ZoneInfo

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from core.safety.circumstances import lines_for_clinician
from core.safety.condition import in_plain_words
from core.safety.screening import RedFlag, in_words
from core.safety.stop import SIGNS, StopSign
from web.clients.models import Client, link_ends
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.design.dates import long_day
from web.practice.models import Attempt, SetAside
from web.practice.recordings.consent import days_left, may_listen, saved_sounds
from web.practice.sessions.remarks import counts, remarks_on
from web.practice.usecases.clear_stop import look_at_set_aside
from web.practice.usecases.correct_attempt import correct_attempt
from web.practice.usecases.reset_level import reset_level
from web.review import queries
from web.review.caseload.rounds import WINDOW
from web.review.caseload.rounds import rounds as caseload
from web.review.caseload.row import RowFile
from web.review.deciding.proposals import decision_message
from web.review.forms import DecisionForm, RoundsForm
from web.review.models import CaseloadRow
from web.review.results.attempt import attempt_page
from web.review.results.sessions import step_names
from web.review.results.since_first import since_first
from web.review.usecases.close_contact import close_contact
from web.review.usecases.decide import decide, mark_done
from web.review.visits.care import care_of


@require_GET
def rounds(request):
    today = clock.local_date(clock.now(), request.clinic.time_zone)
    asked = RoundsForm(request.GET)
    found = caseload(
        request.clinic,
        clinician=None if asked.whole else request.user,
        today=today,
        find=asked.find,
        need=asked.need,
        put_off=asked.put_off,
        page=asked.page,
    )
    past = Client.objects.past_retention(request.clinic, clock.now())
    context = {
        "past_retention": past.order_by("name")[:WINDOW] if request.membership.is_lead else (),
        "lacks_telephone": request.membership.is_lead and not request.clinic.telephone.strip(),
        "rounds": found,
        "asked": asked,
        "mine": not asked.whole,
        "find": asked.find,
        "today": today,
        "here": "rounds",
    }
    return render(request, "review/rounds.html", context)


@require_GET
def client(request, client_id):
    return client_page(request, client_id)


def client_page(
    request, client_id, *, typed=None, contact_typed=None, wrong="", care_wrong="", status=200
):
    """The Client page; typed, contact_typed: what was sent and could not be kept, wrong and care_wrong say
    why."""
    row = get_object_or_404(
        CaseloadRow.objects.for_clinic(request.clinic).select_related(
            "client__clinician", "client__clinic"
        ),
        client_id=client_id,
    )
    person, file = row.client, RowFile.of(row)
    screening, measured = file.screening, file.measured
    set_aside = SetAside.objects.filter(client=person, looked_at=None) if row.set_aside else ()
    page = queries.client_page(file)
    context = {
        "client": person,
        "row": row,
        "link_ends": link_ends(row.link_made_at, request.clinic) if row.link_made_at else None,
        "page": page,
        "age": file.age_years,
        "screening": screening,
        **_screened(file),
        "conditions": [in_plain_words(c) for c in sorted(screening.conditions)]
        if screening
        else [],
        "gate": file.running_gate,
        "baseline": file.baseline,
        "since_first": since_first(file),
        "flags": file.baseline.flags(request.clinic) if file.baseline else [],
        "measured": measured[-1] if measured else None,
        "set_aside": set_aside,
        "stop_words": _stop_words(row),
        "new_link": request.session.pop("new_link", None),
        "typed": typed or {},
        "wrong": wrong,
        "contact_typed": contact_typed or {},
        "contact_due": any(one.contact for one in page.to_do),
        **care_of(file, user=request.user),
        "care_wrong": care_wrong,
        "here": "client",
    }
    return render(request, "review/client.html", context, status=status)


def _stop_words(row: CaseloadRow) -> str:
    """The stop sign nobody has cleared, with the red flags that were said with it; "" for none."""
    if not row.stop_sign:
        return ""
    flags = [str(in_words(RedFlag(flag))) for flag in row.flags_said]
    return ", ".join([str(SIGNS[StopSign(row.stop_sign)]), *flags])


def _screened(file: RowFile) -> dict:
    """Red flags that stand and those that were opened again, and how the client lives."""
    screening, today = file.screening, file.today
    if screening is None:
        return {}
    still = screening.open_flags(today)
    past = sorted(screening.red_flags - set(still))

    def said(flag) -> str:
        return f"{in_words(flag)}, {long_day(screening.noted(flag))}"

    return {
        "red_flags": [said(flag) for flag in still],
        "unasked": len(screening.unasked),
        "past_flags": [_("%(flag)s: looked at since") % {"flag": said(flag)} for flag in past],
        "living": lines_for_clinician(file.living, today=today, steps=0),
        "whereabouts": (file.row.screening or {}).get("where", ""),
    }


@require_POST
def decide_proposal(request, client_id):
    """Accept, alter or refuse one proposal; what cannot be is said beside it and nothing is kept."""
    person = get_object_or_404(Client.objects.for_clinic(request.clinic), pk=client_id)
    asked = DecisionForm(request.POST)
    if not asked.is_valid():
        wrong = _("This decision could not be read; nothing was changed.")
        return client_page(request, person.pk, typed=request.POST, wrong=wrong, status=422)
    values = asked.cleaned_data
    try:
        decision = decide(
            person,
            key=values["key"],
            after=values["after"],
            accept=values["accept"] == "yes",
            rung=values["rung"],
            reason=values["reason"],
            due_on=values["due_on"],
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return client_page(request, person.pk, typed=request.POST, wrong=refused.words, status=422)
    messages.success(request, decision_message(decision))
    return redirect("review:client", person.pk)


@require_POST
def done(request, client_id, decision_id):
    person = get_object_or_404(Client.objects.for_clinic(request.clinic), pk=client_id)
    try:
        mark_done(person, decision_id, by=request.user, now=clock.now())
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
    else:
        messages.success(request, _("Marked as done."))
    return redirect("review:client", person.pk)


@require_POST
def clear_stop(request, client_id):
    person = get_object_or_404(Client.objects.for_clinic(request.clinic), pk=client_id)
    said, then = request.POST.get("said", ""), request.POST.get("then", "")
    try:
        close_contact(person, said=said, then=then, by=request.user, now=clock.now())
    except UsecaseRefused as refused:
        contact = {"said": said, "then": then}
        return client_page(
            request, person.pk, wrong=refused.words, contact_typed=contact, status=422
        )
    messages.success(request, _("Contact saved."))
    return redirect("review:client", person.pk)


@require_http_methods(["GET", "POST"])
def home_levels(request, client_id):
    """Soft and strong references of each device at home; either can be taken anew."""
    person = get_object_or_404(Client.objects.for_clinic(request.clinic), pk=client_id)
    if request.method == "POST":
        try:
            reset_level(
                person,
                device=request.POST.get("device", "")[:200],
                kind=request.POST.get("kind", ""),
                by=request.user,
                now=clock.now(),
            )
        except UsecaseRefused as refused:
            messages.error(request, refused.words)
        else:
            messages.success(request, _("It is taken anew in the next home session."))
        return redirect("review:home_levels", person.pk)
    context = {"client": person, "lines": queries.home_levels(person.pk), "here": "client"}
    return render(request, "review/home_levels.html", context)


@require_POST
def look_at(request, client_id):
    person = get_object_or_404(Client.objects.for_clinic(request.clinic), pk=client_id)
    look_at_set_aside(person, by=request.user, now=clock.now())
    messages.success(request, _("Marked as looked at; the uploads stay kept."))
    return redirect("review:client", person.pk)


def _attempt(request, client_id, attempt_id) -> Attempt:
    rows = Attempt.objects.for_clinic(request.clinic).select_related(
        "client__clinician", "home_session", "version", "measurement__contour"
    )
    return get_object_or_404(rows, pk=attempt_id, client_id=client_id)


@require_GET
def attempt(request, client_id, attempt_id):
    held = _attempt(request, client_id, attempt_id)
    return attempt_page_of(request, held)


def attempt_page_of(request, held: Attempt, *, typed=None, wrong="", remark_wrong="", status=200):
    """The page of an attempt; typed, wrong: ends that could not be kept, remark_wrong: a remark."""
    page, now = attempt_page(held), clock.now()
    heard = saved_sounds(held.client, now).filter(attempt=held).first()
    found = page.shown.ends_s if page.shown else None
    ends = [f"{end:.2f}" for end in found] if found else ["", ""]
    typed = typed or {}
    context = {
        "client": held.client,
        "attempt": held,
        "page": page,
        "step_name": step_names(held.version.program).get(
            str(held.step_id), _("a step no longer there")
        ),
        "at": held.started_at.astimezone(ZoneInfo(held.client.time_zone)),
        "onset_s": typed.get("onset_s", ends[0]),
        "offset_s": typed.get("offset_s", ends[1]),
        "reason": typed.get("reason", ""),
        "wrong": wrong,
        "remarks": (remarks := remarks_on(held.home_session, held)),
        "counting": counts(remarks),
        "remark_wrong": remark_wrong,
        "heard": heard,
        "heard_days": days_left(heard, now) if heard else 0,
        "listens": may_listen(request.user, held.client),
        "typed": request.POST,
        "here": "client",
    }
    return render(request, "review/attempt.html", context, status=status)


@require_POST
def correct(request, client_id, attempt_id):
    held = _attempt(request, client_id, attempt_id)
    try:
        correct_attempt(
            held,
            onset_s=float(request.POST.get("onset_s", "")),
            offset_s=float(request.POST.get("offset_s", "")),
            reason=request.POST.get("reason", ""),
            by=request.user,
            now=clock.now(),
        )
    except ValueError:
        wrong = _("Begin and end are seconds, for example 0.62 and 8.40. Nothing was changed.")
        return attempt_page_of(request, held, typed=request.POST, wrong=wrong, status=422)
    except UsecaseRefused as refused:
        return attempt_page_of(request, held, typed=request.POST, wrong=refused.words, status=422)
    messages.success(request, _("Correction kept beside the measured value."))
    return redirect("review:attempt", client_id, attempt_id)
