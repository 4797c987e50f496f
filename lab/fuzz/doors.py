"""The doors of the served application, each with one odd input a number."""

import json
import random
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import quote, urlencode

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client as Browser

from lab.fuzz import odd
from lab.fuzz.forms import HtmlForm, forms_in


def stranger() -> Browser:
    """A browser without a session; an error is an answer, as behind a server."""
    return Browser(raise_request_exception=False, headers={"host": "127.0.0.1"})


NOT_SENT = (
    "/erase/",
    "/archive/",
    "/revoke/",
    "/leave/",
    "/logout/",
    "/hand-over/",
    "/staff/",
    "/deputy/",
    "/link/",
)
"""What would end the run: it takes away a client, a link or a sign-in."""
_GET_NAMES = (
    "find",
    "family",
    "routine",
    "weeks",
    "start",
    "page",
    "sort",
    "need",
    "by",
    "filter",
    "language",
    "next",
    "rule",
    "number",
)


@dataclass(frozen=True, slots=True)
class FuzzAnswer:
    """What came back: which door, what was asked, status, words of an error; reads: whether something may have
    been kept, so that the pages are read again."""

    door: str
    asked: str
    status: int
    kept: bool


@dataclass
class FuzzWorld:
    """Browsers that are let in, and what is known of the client at hand."""

    staff: Browser
    lead: Browser
    home: Browser
    person: str
    link: str
    program: bytes
    wav: bytes
    files: dict[str, tuple[Browser, bytes]] = field(default_factory=dict)
    bundle: dict[str, Any] = field(default_factory=dict)
    forms: list[tuple[Browser, str, HtmlForm]] = field(default_factory=list)

    def pages(self) -> Iterator[tuple[Browser, str]]:
        """Every page that shows what was kept."""
        of_client = (
            "",
            "program/",
            "results/",
            "baseline/",
            "screening/",
            "rules/",
            "baseline/level/",
            "home-levels/",
            "heard/",
            "paper-log/",
            "print/",
            "report/progress/",
        )
        for path in of_client:
            yield self.staff, f"/clients/{self.person}/{path}"
        for path in ("/rounds/", "/library/", "/library/materials/", "/clients/new/"):
            yield self.staff, path
        yield self.lead, "/clinic/"
        yield self.lead, "/rules/"
        yield self.lead, "/records/"
        for path in ("today/", "practice/", "progress/", "recordings/"):
            yield self.home, f"/c/{self.link}/{path}"

    def look_for_forms(self) -> None:
        for browser, path in self.pages():
            answer = browser.get(path)
            if answer.status_code == 200:
                found = forms_in(answer.content.decode())
                self.forms += [
                    (browser, path, form)
                    for form in found
                    if not any(part in (form.action or path) for part in NOT_SENT)
                ]
        self.forms.append(
            (
                stranger(),
                "",
                HtmlForm("/accounts/login/", "post", {"login": ["a@b.example"], "password": ["x"]}),
            )
        )
        self.forms.append(
            (stranger(), "", HtmlForm(f"/c/{self.link}/", "post", {"pin": ["246810"]}))
        )

    def open_session(self) -> dict[str, Any]:
        answer = self.home.post(
            f"/c/{self.link}/home-sessions/",
            json.dumps({"session_id": str(uuid.uuid4()), "anew": True}),
            content_type="application/json",
        )
        self.bundle = answer.json() if answer.status_code == 200 else {}
        return self.bundle


def a_form(world: FuzzWorld, rng: random.Random) -> FuzzAnswer:
    browser, path, form = rng.choice(world.forms)
    data: dict[str, Any] = {name: list(values) for name, values in form.fields.items()}
    names = sorted(data)
    for name in rng.sample(names, min(len(names), rng.randint(1, 3))):
        does = rng.random()
        if does < 0.15:
            data.pop(name)
        elif does < 0.25:
            data[name] = [odd.text(rng), odd.text(rng)]
        else:
            data[name] = [odd.text(rng)]
    for name in form.files:
        data[name] = SimpleUploadedFile("file.json", odd.file(rng, world.program))
    action = form.action or path
    if action.startswith("?"):
        action = f"{path}{action}"
    try:
        answer = browser.post(action, data)
    except UnicodeEncodeError:  # no browser sends half a character
        return FuzzAnswer("form", action, 0, kept=False)
    return FuzzAnswer("form", f"{action} {names}", answer.status_code, answer.status_code < 400)


def a_query(world: FuzzWorld, rng: random.Random) -> FuzzAnswer:
    browser, path = rng.choice(list(world.pages()))
    asked = {rng.choice(_GET_NAMES): odd.text(rng)[:3000] for _ in range(rng.randint(1, 3))}
    query = urlencode(asked, errors="surrogatepass")
    return FuzzAnswer(
        "query", f"{path}?{query[:200]}", browser.get(f"{path}?{query}").status_code, kept=False
    )


def _attempt(world: FuzzWorld, rng: random.Random) -> dict[str, Any]:
    bundle = world.bundle
    step = rng.choice(bundle.get("steps") or [{"step_id": str(uuid.uuid4())}])
    return {
        "attempt_id": str(uuid.uuid4()),
        "step_id": step["step_id"],
        "place": 0,
        "repetition": 1,
        "input": "microphone",
        "device": {"label": "phone", "sampleRate": 48000, "autoGainControl": False},
        "elapsed_ms": 4000,
        "device_time": "2026-06-15T09:00:00Z",
        "seconds": 4.2,
        "count": 3,
        "interrupted": False,
    }


def a_json(world: FuzzWorld, rng: random.Random) -> FuzzAnswer:
    """Of an attempt, an entry, a home session, a ticket, an edit on the Bench."""
    said = _attempt(world, rng)
    ticket = {"X-Ticket": world.bundle.get("ticket", "")}
    step = said["step_id"]
    entries: tuple[dict[str, Any], ...] = (
        {"kind": "strain", "step_id": step, "value": 3},
        {"kind": "pain", "step_id": step, "value": 1},
        {
            "kind": "before",
            "step_id": None,
            "value": {
                "hoarser": False,
                "pain": 0,
                "tired": 3,
                "flags": [],
                "gasped": True,
                "medication_min": 30,
            },
        },
        {"kind": "finish", "step_id": None, "value": {"effort": 3, "discomfort": 1}},
    )
    edits: tuple[dict[str, Any], ...] = (
        {"revision": 1, "edit": "seconds", "step_id": step, "place": 0, "value": 5.0},
        {"revision": 1, "edit": "repetitions", "step_id": step, "value": 2},
        {"revision": 1, "do": "undo"},
    )
    doors: tuple[tuple[Browser, str, str, Any, dict[str, str]], ...] = (
        (stranger(), "put", f"/attempts/{said['attempt_id']}/", said, ticket),
        (stranger(), "put", f"/entries/{uuid.uuid4()}/", rng.choice(entries), ticket),
        (
            world.home,
            "post",
            f"/c/{world.link}/home-sessions/",
            {"session_id": str(uuid.uuid4()), "routine": "ladder", "short_day": False},
            {},
        ),
        (
            world.home,
            "post",
            f"/c/{world.link}/ticket/",
            {"ticket": world.bundle.get("ticket", "")},
            {},
        ),
        (
            world.staff,
            "post",
            f"/clients/{world.person}/program/edit/",
            rng.choice(edits),
            {"Accept": "application/json"},
        ),
    )
    browser, method, path, data, headers = rng.choices(doors, (4, 3, 1, 1, 2))[0]
    if rng.random() < 0.05 and "X-Ticket" in headers:
        headers = {"X-Ticket": odd.text(rng)[:4000].encode("ascii", "replace").decode()}
    sent = odd.body(rng, data)
    answer = getattr(browser, method)(path, sent, content_type="application/json", headers=headers)
    return FuzzAnswer(
        "json", f"{path} {sent[:160]!r}", answer.status_code, answer.status_code < 400
    )


def a_sound(world: FuzzWorld, rng: random.Random) -> FuzzAnswer:
    """A sound sent whole, broken or with an odd head."""
    said = _attempt(world, rng)
    offer = said if rng.random() < 0.4 else odd.mutated(rng, said)
    try:
        head = quote(json.dumps(offer)) if rng.random() < 0.9 else odd.text(rng)
    except UnicodeEncodeError:
        head = "%ff"
    headers = {
        "X-Ticket": world.bundle.get("ticket", ""),
        "X-Attempt": head.encode("ascii", "replace").decode(),
    }
    sent = odd.file(rng, world.wav) if rng.random() < 0.7 else world.wav
    answer = stranger().put(
        f"/attempts/{said['attempt_id']}/", sent, content_type="audio/wav", headers=headers
    )
    return FuzzAnswer(
        "sound", f"{len(sent)} bytes, {head[:120]}", answer.status_code, answer.status_code < 400
    )


def a_file(world: FuzzWorld, rng: random.Random) -> FuzzAnswer:
    """A file from elsewhere, broken: a practice log, music, an archive of a record."""
    path = rng.choice(sorted(world.files))
    browser, good = world.files[path]
    sent = odd.file(rng, good)
    answer = browser.post(path, {"file": SimpleUploadedFile("file", sent)})
    return FuzzAnswer(
        "file", f"{path} {len(sent)} bytes", answer.status_code, answer.status_code < 300
    )


def a_saved(world: FuzzWorld, rng: random.Random) -> FuzzAnswer:
    """What leaves as a file, asked for oddly."""
    where = rng.choice(("calendar.ics", "fhir.json", "paper-log/log.csv", "results.csv"))
    query = urlencode(
        {rng.choice(("weeks", "remind", "start")): odd.text(rng)[:2000]}, errors="replace"
    )
    path = f"/clients/{world.person}/{where}"
    status = world.staff.get(f"{path}?{query}").status_code
    return FuzzAnswer("saved", f"{path}?{query[:160]}", status, kept=False)


Door = Callable[[FuzzWorld, random.Random], FuzzAnswer]
DOORS: tuple[tuple[Door, int], ...] = (
    (a_form, 9),
    (a_query, 2),
    (a_json, 8),
    (a_sound, 2),
    (a_file, 3),
    (a_saved, 1),
)
"""Each with its share."""
