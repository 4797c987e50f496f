"""Mail, staff, thresholds, the clock, error pages."""

from datetime import date, timedelta
from pathlib import Path

import pytest
from django.core.mail import send_mail
from django.core.mail.backends.filebased import EmailBackend
from django.template.loader import render_to_string
from django.urls import reverse

from tests.conftest import NOW, PASSWORD, baseline_of, member
from web.clinic import clock
from web.clinic.models import Membership, OutboxMessage
from web.clinic.refusal import UsecaseRefused
from web.clinic.usecases.outbox import WRITTEN, deliver
from web.clinic.usecases.staff import find_invitation, set_staff

pytestmark = pytest.mark.django_db


@pytest.fixture
def outbox(settings):
    settings.EMAIL_BACKEND = "web.clinic.usecases.outbox.OutboxBackend"


@pytest.fixture
def lead(client, clinic):
    user = Membership.objects.get(clinic=clinic, role="lead").user
    client.force_login(user)
    return client


def test_mail_leaves_after_the_transaction_and_once(
    outbox, settings, django_capture_on_commit_callbacks
):
    WRITTEN.clear()
    with django_capture_on_commit_callbacks(execute=True):
        send_mail("Subject", "Body", None, ["a@quay.example", "b@quay.example"])
    # the answer waited for no mail server; what works beside is told that there is something
    assert OutboxMessage.objects.filter(sent_at=None).count() == 2
    assert WRITTEN.is_set()
    assert deliver() == 2
    assert not OutboxMessage.objects.filter(sent_at=None).exists()
    # the stand-in may write two mails of one moment into one file
    written = "".join(one.read_text() for one in Path(settings.EMAIL_FILE_PATH).iterdir())
    for address in ("a@quay.example", "b@quay.example"):
        assert written.count(f"To: {address}") == 1
    assert deliver() == 0


def test_a_mail_that_cannot_leave_is_tried_again_after_longer_and_longer_waits(
    outbox, settings, monkeypatch
):
    settings.DELIVERY_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
    settings.EMAIL_HOST, settings.EMAIL_PORT = "127.0.0.1", 1
    now = clock.now()
    send_mail("Subject", "Body", None, ["a@quay.example"])
    waits = []
    for _ in range(9):
        monkeypatch.setattr(clock, "now", lambda at=now: at)
        assert deliver() == 0
        row = OutboxMessage.objects.get()
        assert row.sent_at is None
        assert "refused" in row.failure
        waits.append((row.not_before - now).total_seconds())
        now = row.not_before
        monkeypatch.setattr(clock, "now", lambda at=now: at - timedelta(seconds=1))
        assert deliver() == 0
        assert OutboxMessage.objects.get().tries == row.tries
    assert waits == [10, 20, 40, 80, 160, 320, 600, 600, 600]
    settings.DELIVERY_BACKEND = "django.core.mail.backends.filebased.EmailBackend"
    monkeypatch.setattr(clock, "now", lambda: now)
    assert deliver() == 1


class Poisoned(EmailBackend):
    """A mail server's library that breaks over one of the mails."""

    def send_messages(self, messages):
        if "bad@quay.example" in messages[0].to:
            raise UnicodeEncodeError("ascii", "ü", 0, 1, "no")
        return super().send_messages(messages)


def test_one_mail_that_breaks_keeps_none_of_the_others_and_none_goes_twice(outbox, settings):
    settings.DELIVERY_BACKEND = f"{__name__}.Poisoned"
    for to in ("first@quay.example", "bad@quay.example", "last@quay.example"):
        send_mail("Subject", "Body", None, [to])
    assert deliver() == 2
    assert deliver() == 0
    assert len(list(Path(settings.EMAIL_FILE_PATH).iterdir())) == 2
    assert OutboxMessage.objects.get(sent_at=None).to == "bad@quay.example"


def test_a_new_password_comes_by_mail_without_saying_who_exists(client, clinician, outbox):
    for email in (clinician.email, "nobody@quay.example"):
        answer = client.post(reverse("account_reset_password"), {"email": email})
        assert answer.status_code == 302
        assert answer.url == reverse("account_reset_password_done")


def test_signing_in_by_mail_and_password(client, clinician):
    answer = client.post(
        reverse("account_login"), {"login": clinician.email.upper(), "password": PASSWORD}
    )
    assert answer.status_code == 302
    assert client.get(reverse("review:rounds")).status_code == 200
    assert b"Una" not in client.get(reverse("account_logout")).content.split(b"<title>")[0]


def test_nobody_changes_their_own_role(clinician):
    with pytest.raises(UsecaseRefused):
        set_staff(clinician.membership, active=False, role="lead", by=clinician)


def test_the_lead_closes_and_opens_access_but_not_in_another_clinic(
    lead, clinician, other_clinic, client
):
    foreign = member(other_clinic, "far@shore.example").membership
    address = reverse("clinic:set_staff", args=[clinician.membership.pk])
    lead.post(address, {"active": "no"})
    clinician.membership.refresh_from_db()
    assert not clinician.membership.active
    lead.post(address, {"active": "yes", "role": "emperor"})
    clinician.membership.refresh_from_db()
    assert (clinician.membership.active, clinician.membership.role) == (True, "clinician")
    away = lead.post(reverse("clinic:set_staff", args=[foreign.pk]), {"active": "no"})
    assert away.status_code == 404


def test_an_address_with_an_account_is_not_invited_again(lead, clinician, outbox):
    lead.post(reverse("clinic:invite"), {"email": clinician.email, "role": "clinician"})
    assert not OutboxMessage.objects.exists()


@pytest.mark.parametrize("token", ["", "x", "x.y.z"])
def test_made_up_invitations_are_refused(token):
    with pytest.raises(UsecaseRefused):
        find_invitation(token)


def clinic_values(clinic, **changes):
    usual = {
        "name": clinic.name,
        "time_zone": "Europe/Dublin",
        "language": "en-gb",
        "a4_hz": 442,
        "short_phonation_s": 9,
        "sz_ratio_flag": 1.7,
        "session_minutes": 12,
        "week_minutes": 90,
        "retention_years": 8,
        "link_months": 12,
        "hoarse_weeks": 3,
        "examination_days": 200,
        "emergency_number": "999",
    }
    return usual | changes


@pytest.mark.parametrize("odd", [{"session_minutes": 0}, {"week_minutes": 5000}])
def test_minutes_out_of_limits_are_refused_at_the_field(lead, clinic, odd):
    answer = lead.post(reverse("clinic:clinic"), clinic_values(clinic, **odd))
    assert answer.status_code == 422
    assert "minutes." in answer.content.decode()
    clinic.refresh_from_db()
    assert (clinic.session_minutes, clinic.week_minutes) == (20, 300)


def test_the_clinic_s_minutes_bound_a_proposal_and_are_named_on_the_bench(
    lead, clinic, person, clinician
):
    baseline_of(person, clinician)
    lead.post(reverse("clinic:clinic"), clinic_values(clinic))
    lead.post(
        reverse("programs:propose", args=[person.pk]), {"school": ["sustained", "carry_over"]}
    )
    page = lead.get(reverse("programs:bench", args=[person.pk])).content.decode()
    assert "A home session takes at most 12 min" in page
    # the sustained ladder takes 5.6 min twice a day; a week of 90 min has room for less
    assert "A week takes at most 90 min" in page
    assert "the limit is 90 min" not in page


def test_a_changed_threshold_is_the_one_the_page_names(lead, clinic, person, clinician):
    baseline_of(person, clinician)
    page = reverse("review:client", args=[person.pk])
    assert "9.4 s is under 10 s" in lead.get(page).content.decode()
    assert lead.post(reverse("clinic:clinic"), clinic_values(clinic)).status_code == 302
    shown = lead.get(page).content.decode()
    assert "is under" not in shown
    assert "or more: the folds" not in shown
    lead.post(reverse("programs:propose", args=[person.pk]), {"school": ["sustained"]})
    bench = lead.get(reverse("programs:bench", args=[person.pk])).content.decode()
    assert "Stretch glide" in bench
    assert "or more: the folds" not in bench


@pytest.mark.parametrize(
    "changes",
    [
        {"a4_hz": 300},
        {"a4_hz": "x"},
        {"time_zone": "Moon/Base"},
        {"name": ""},
        {"retention_years": -1},
    ],
)
def test_impossible_clinic_values_are_422(lead, clinic, changes):
    answer = lead.post(reverse("clinic:clinic"), clinic_values(clinic, **changes))
    assert answer.status_code == 422
    clinic.refresh_from_db()
    assert clinic.a4_hz == 440


def test_a_fixed_day_is_one_date_everywhere_nearby_and_moves_on(settings):
    settings.TODAY = date(2026, 6, 15)
    first = clock.now()
    assert clock.now() >= first
    for zone in ("Europe/Dublin", "Atlantic/Azores", "Europe/Helsinki"):
        assert clock.local_date(first, zone) == date(2026, 6, 15)
    settings.TODAY = None
    assert clock.now().year >= 2026


@pytest.mark.parametrize("summer", [True, False])
def test_local_dates_follow_daylight_saving(summer):
    at = NOW.replace(month=6 if summer else 12, hour=23, minute=30)
    assert clock.local_date(at, "Europe/Dublin").day == (15 if summer else 14)


def test_a_page_that_is_not_there_says_so_in_words(client, db):
    answer = client.get("/no/such/page/")
    assert answer.status_code == 404
    assert "There is nothing here" in answer.content.decode()


def test_a_form_without_its_token_is_403_in_words(clinician):
    from django.test import Client

    strict = Client(enforce_csrf_checks=True)
    strict.force_login(clinician)
    answer = strict.post(reverse("clients:enrol"), {"name": "x"})
    assert answer.status_code == 403
    assert "not yours to open" in answer.content.decode()


def test_pages_forbid_foreign_scripts_and_framing(signed_in):
    headers = signed_in.get(reverse("review:rounds")).headers
    policy = headers["Content-Security-Policy"]
    assert "script-src 'self'" in policy
    assert "default-src 'none'" in policy
    assert "unsafe" not in policy
    assert headers["X-Frame-Options"] == "DENY"


def test_the_folder_of_mails_is_closed_to_others(settings, tmp_path):
    from django.core.mail import EmailMessage, get_connection

    settings.EMAIL_FILE_PATH = str(tmp_path / "closed")
    backend = "web.clinic.mail.PrivateFiles"
    get_connection(backend).send_messages([EmailMessage("a", "b", "c@d.example", ["e@f.example"])])
    assert (tmp_path / "closed").stat().st_mode & 0o077 == 0
    assert list((tmp_path / "closed").iterdir())


@pytest.mark.parametrize("status", [400, 403, 404, 409, 500, 503])
def test_a_page_that_says_what_went_wrong_says_too_what_this_does_not_replace(status):
    """A client may meet any of them."""
    shown = render_to_string(f"{status}.html")
    assert "does not replace, care by a licensed clinician" in shown
    assert "not watched around the clock" in shown
