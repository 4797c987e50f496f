"""Fills an empty database with the clinic of Harrow Quay, through use-cases only."""

import uuid
from collections.abc import Sequence
from datetime import datetime, timedelta
from functools import partial

from core.editing.change_rung import on_rung
from core.notes.note import Note
from lab.demo.people import Person, people
from lab.demo.simulate_practice import DemoPractice, activated, simulate
from lab.demo.takes import Takes
from lab.demo.visit import measure_visit
from lab.simulate.history import Profile
from web.clients.baseline.view import BaselineView
from web.clients.models import Client, ClientAccess, Measure
from web.clients.signals import record_changed
from web.clients.usecases.baseline import (
    open_baseline,
    record_baseline,
    set_baseline,
    type_attempt,
)
from web.clients.usecases.enrol import enrol_client, record_screening
from web.clients.usecases.for_home import save_note, save_phrases
from web.clients.usecases.link import make_link
from web.clinic.models import Clinic, User
from web.clinic.usecases.staff import accept_invitation, invite, open_clinic
from web.practice.usecases.recordings import agree_to_be_heard
from web.programs.client_file import ClientFile
from web.programs.plan_request import plan_request
from web.programs.usecases import drafts
from web.review.usecases.refresh_row import rows_worked_out_once

PASSWORD = "harrow-quay-demo"
PIN = "246810"
SHOWN = "Maren Tidewell"
MEASURED_VISITS = (SHOWN, "Alwin Prewett")
"""Clients whose visit is performed and measured as well: soft holds, and strong ones."""
ZONE = "Europe/Dublin"
LEAD = "lead@harrow-quay.example"
CLINICIANS = (("una@harrow-quay.example", "Una Carrick"), ("dov@harrow-quay.example", "Dov Ellery"))


def load_demo(now: datetime, takes: Takes, *, only: Sequence[str] = ()) -> Clinic:
    """Clinic, staff, 24 clients with their histories up to `now`; `only`: just these by name."""
    clinic = open_clinic(
        name="Harrow Quay Voice Clinic",
        lead_email=LEAD,
        lead_name="Greta Solan",
        password=PASSWORD,
        time_zone=ZONE,
        language="en-gb",
        telephone="000 555 0100",
        policy_text="Harrow Quay: in doubt, rest and call.",
    )
    lead = User.objects.get(email=LEAD)
    staff = []
    for email, name in CLINICIANS:
        invitation = invite(
            clinic, email=email, role="clinician", by=lead, now=now, address="http://127.0.0.1:8010"
        )
        staff.append(accept_invitation(invitation, name=name, password=PASSWORD, now=now))
    for number, person in enumerate(people()):
        if not only or person.name in only:
            with rows_worked_out_once():
                _client(clinic, person, staff[0 if person.hers else 1], number, now, takes)
    return clinic


def sign_ins(address: str) -> str:
    """Addresses and demo sign-ins, as the start command prints them."""
    maren = ClientAccess.objects.filter(client__name=SHOWN, revoked_at=None).first()
    lines = [f"Clinician   {CLINICIANS[0][0]}   password {PASSWORD}"]
    lines += [f"Clinician   {CLINICIANS[1][0]}    password {PASSWORD}"]
    lines += [f"Lead        {LEAD}  password {PASSWORD}"]
    if maren is not None:
        lines += [f"Client      {address}/c/{maren.pk}/   PIN {PIN}   ({SHOWN})"]
    return "\n".join(lines)


def _client(
    clinic: Clinic, person: Person, clinician: User, number: int, now: datetime, takes: Takes
) -> None:
    begin = now - timedelta(days=7 * person.weeks + 1)
    born = begin.date().replace(year=begin.year - person.age, day=1)
    client = enrol_client(
        clinic,
        clinician=clinician,
        name=person.name,
        born_on=born,
        voice_group=person.group,
        time_zone=ZONE,
        occupation=person.occupation,
        referral=person.referral,
    )
    record_screening(
        client,
        by=clinician,
        now=begin,
        red_flags=[],
        asked_on=begin.date(),
        larynx_examined_on=begin.date() - timedelta(days=9) if person.examined else None,
        findings=person.referral if person.examined else "",
        trouble_began_on=begin.date() - timedelta(days=60),
        hoarse_weeks=None if person.examined else 5.0,
        voice="troubled",
        airway="larynx",
        cold=False,
        guardian_consent=person.age < 18,
        conditions=person.conditions,
        equipment=person.equipment,
        cannot=person.cannot,
    )
    save_phrases(client, list(person.phrases), by=clinician, now=begin)
    save_note(client, person.note, by=clinician, now=begin)
    view = _baseline(client, person, clinician, begin)
    if person.weeks:
        _practice(client, person, view, clinician, number, begin, now, takes)
    record_changed.send(Client, client_id=client.pk)


def _baseline(client: Client, person: Person, by: User, now: datetime) -> BaselineView:
    baseline = open_baseline(client, by=by, now=now)
    typed = {
        Measure.PHONATION: person.phonation,
        Measure.STRONG: (person.phonation[0] * 0.9, person.phonation[0] * 0.85),
        Measure.S: (person.s, person.s - 1.1),
        Measure.Z: (person.z, person.z - 0.9),
        Measure.PROBE_LOW: (person.probes[0], person.probes[0] - 0.7),
        Measure.PROBE_MIDDLE: (person.probes[1], person.probes[1] - 0.5),
        Measure.PROBE_TOP: (person.probes[2], person.probes[2] - 0.6),
    }
    for measure, all_seconds in typed.items():
        for seconds in all_seconds:
            type_attempt(
                baseline,
                attempt_id=uuid.uuid4(),
                measure=measure,
                seconds=round(seconds, 1),
                now=now,
            )
    set_baseline(
        baseline,
        {
            "lowest": Note.named(person.low).name,
            "highest": Note.named(person.high).name,
            "transition": Note.named(person.transition).name if person.transition else "",
            "speaking": Note.named(person.speaking).name if person.speaking else "",
            "height_cm": person.height,
            "lung_sex": person.lungs,
            "throat_strain": round(person.strain),
            "effort": round(person.strain) + 1,
            "fatigue": round(person.strain) + 2,
            "discomfort": round(person.strain) // 2,
        },
    )
    if person.name in MEASURED_VISITS:
        low, high = Note.named(person.low), Note.named(person.high)
        measure_visit(baseline, low=low, high=high, by=by, now=now)
    record_baseline(baseline, now=now)
    return BaselineView.of(baseline, person.age)


def _practice(
    client: Client,
    person: Person,
    view: BaselineView,
    by: User,
    number: int,
    begin: datetime,
    now: datetime,
    takes: Takes,
) -> None:
    wanted = plan_request(ClientFile(client, begin.date()), chosen=person.schools)
    draft = drafts.propose(client, wanted, by=by, now=begin)
    for step in draft.program.steps:
        if step.grade and step.task in person.begins:
            rung = step.grade.codes.index(person.begins[step.task])
            draft = drafts.edit_draft(
                client,
                revision=draft.revision,
                change=partial(on_rung, step_id=step.step_id, rung=rung),
                by=by,
                now=begin,
            )
    version = activated(client, draft, by, begin)
    if person.heard:
        agree_to_be_heard(client, by=by, now=begin)
    access, _pin = make_link(client, by=by, now=begin, pin=PIN)
    profile = Profile(
        course=person.course,
        start_s=min(person.probes) * 0.98,
        gain_s_a_week=person.gain,
        keeps=person.keeps,
        strain=person.strain,
        seed=1000 + number,
    )
    practice = DemoPractice(
        client=client,
        person=person,
        by=by,
        access=access,
        profile=profile,
        takes=takes,
        begin=begin.date(),
    )
    simulate(practice, version, now)
