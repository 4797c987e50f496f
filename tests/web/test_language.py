"""A client's pages in the client's own language: nothing of them escapes."""

import json
import uuid
from datetime import timedelta

import pytest
from django.urls import reverse
from django.utils import translation
from django.utils.html import escape

from core.fitting.schools import schools
from core.program.program import Chosen
from core.safety.circumstances import Circumstance, Event, Living
from tests.conftest import NOW, PIN, activate_program, enrol, red_flag
from tests.pseudo import LANGUAGE, plain_in, plain_words, pseudo
from web.clients.models import Client
from web.clients.usecases.link import make_link
from web.measuring.tickets import Ticket

pytestmark = pytest.mark.django_db


def test_the_strange_language_keeps_what_is_filled_in():
    assert pseudo("%(count)s times") == "%(count)s ťíɱéš éíóúéí"
    assert pseudo("Done").startswith("Đóñé")
    assert plain_words("<p title='Rest'>Đóñé</p><script>const here = 1;</script>") == {"Rest"}


@pytest.fixture
def speaking(strange, person):
    Client.objects.filter(pk=person.pk).update(language=strange)
    person.refresh_from_db()
    return person


def entered(client, speaking, clinician):
    access = make_link(speaking, by=clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    return access


def opened(client, access, routine=None):
    answer = client.post(
        reverse("practice:open_session", args=[access.pk]),
        json.dumps({"session_id": str(uuid.uuid4()), "routine": routine}),
        content_type="application/json",
    )
    assert answer.status_code == 200, answer.content
    return answer.json()


def said_in(bundle):
    """Every text of the bundle that the player shows."""
    talk = [bundle["usual_talk"]] if bundle["usual_talk"] else []
    for step in (*bundle["steps"], *talk):
        yield from (step[name] for name in ("name", "sound", "instruction", "caution", "cue"))
        yield step["effort"]
        yield from (target["label"] for target in step["targets"])


@pytest.mark.parametrize("school", schools())
def test_today_and_the_player_speak_the_clients_language(client, speaking, clinician, school):
    up = any(one.key == "direction" for one in schools()[school].choices)
    chosen = Chosen(school=school, options={"direction": "up"} if up else {})
    version = activate_program(speaking, clinician, schools=(chosen,), speaking="B3")
    access = entered(client, speaking, clinician)
    for page in ("practice:today", "practice:practice", "practice:hearing", "review:own_reeds"):
        answer = client.get(reverse(page, args=[access.pk]))
        html = answer.content.decode()
        assert f'<html lang="{LANGUAGE}">' in html
        assert plain_words(html) <= {clinician.name}
    for routine in version.program.routines:
        bundle = opened(client, access, routine.key)
        assert plain_in(" ".join(said_in(bundle))) == set()
        assert Ticket.read(bundle["ticket"]).language == LANGUAGE


def test_what_the_client_lives_with_is_said_in_it_too(client, speaking, clinician):
    from web.clients.usecases.enrol import record_screening

    day = NOW.date().replace(day=15)  # the fixed day of the pages
    record_screening(
        speaking,
        by=clinician,
        now=NOW + timedelta(minutes=1),
        voice="troubled",
        airway="larynx",
        asked_on=NOW.date(),
        larynx_examined_on=NOW.date(),
        living=Living(circumstances=frozenset(Circumstance), events=(Event(on=day, name="Ømåŋ"),)),
    )
    activate_program(speaking, clinician)
    access = entered(client, speaking, clinician)
    html = client.get(reverse("practice:today", args=[access.pk])).content.decode()
    assert "Ømåŋ" in html
    assert plain_words(html) == set()


def test_what_a_clinician_wrote_herself_stays_as_she_wrote_it(client, speaking, clinician):
    from web.programs.models import ProgramVersion

    version = activate_program(speaking, clinician, schools=(Chosen(school="release"),))
    content = json.loads(json.dumps(version.content))
    content["routines"][0]["steps"][0]["instruction"] = "Roll your left shoulder, Maren."
    written = ProgramVersion(
        clinic_id=version.clinic_id,
        client=speaking,
        number=version.number + 1,
        content=content,
        active_from=version.active_from,
        activated_at=NOW,
        activated_by=clinician,
    )
    written.save()
    access = entered(client, speaking, clinician)
    first = opened(client, access)["steps"][0]
    assert first["instruction"] == "Roll your left shoulder, Maren."


def test_answers_to_what_the_page_sends_speak_it(client, speaking, clinician):
    activate_program(speaking, clinician)
    access = entered(client, speaking, clinician)
    bundle = opened(client, access)
    offer = {"step_id": bundle["steps"][0]["step_id"], "place": 0, "repetition": 1}

    def send(**said):
        attempt = str(uuid.uuid4())
        return client.put(
            reverse("attempt", args=[attempt]),
            json.dumps({"attempt_id": attempt, **offer, **said}),
            content_type="application/json",
            headers={"X-Ticket": bundle["ticket"]},
        ).json()

    assert plain_in(send(seconds=4.0)["words"]) == set()
    assert plain_in(send(seconds=-1)["error"]["message"]) == set()
    entry = client.put(
        f"/entries/{uuid.uuid4()}/",
        json.dumps({"kind": "odd"}),
        content_type="application/json",
        headers={"X-Ticket": bundle["ticket"]},
    )
    assert plain_in(entry.json()["error"]["message"]) == set()
    # and the clinic's next page speaks the clinic's
    assert "Sign in" in client.get(reverse("account_login")).content.decode()


def test_another_client_of_the_clinic_reads_their_own(client, speaking, clinician, clinic):
    other = enrol(clinic, clinician, name="Brid Harrow")
    activate_program(other, clinician)
    access = entered(client, other, clinician)
    html = client.get(reverse("practice:today", args=[access.pk])).content.decode()
    assert '<html lang="en-gb">' in html  # as the clinic speaks
    assert "What you will do" in html


def test_a_language_that_is_no_longer_spoken_here_is_the_first(client, person, clinician):
    Client.objects.filter(pk=person.pk).update(language="en-xa")
    person.refresh_from_db()
    activate_program(person, clinician)
    access = entered(client, person, clinician)
    html = client.get(reverse("practice:today", args=[access.pk])).content.decode()
    assert "What you will do" in html


def test_scripts_speak_the_language_asked_for(client, strange):
    strange_words = json.dumps("Ñó ɱíćŕó").strip('"')
    assert strange_words in client.get("/words.js?language=en-xa").content.decode()
    for odd in ("", "xx", "../../etc"):
        answer = client.get("/words.js", {"language": odd})
        assert answer.status_code == 200
        assert strange_words not in answer.content.decode()


def test_the_language_is_asked_for_where_there_is_a_choice(signed_in, clinic, settings):
    page = signed_in.get(reverse("clients:enrol")).content.decode()
    assert '<option value="en-gb" selected>' in page
    settings.LANGUAGES = settings.LANGUAGES[:1]
    page = signed_in.get(reverse("clients:enrol")).content.decode()
    assert 'name="language"' not in page


def test_the_chosen_language_is_kept_and_an_unknown_one_refused(signed_in, strange):
    said = {
        "name": "Ivo Kelp",
        "born_on": "1980-02-03",
        "voice_group": "men",
        "time_zone": "Europe/Dublin",
        "language": "xx",
    }
    assert signed_in.post(reverse("clients:enrol"), said).status_code == 422
    signed_in.post(reverse("clients:enrol"), said | {"language": LANGUAGE})
    assert Client.objects.get(name="Ivo Kelp").language == LANGUAGE


def test_every_sentence_of_the_core_can_be_said_in_another_language(strange):
    from string import Formatter

    from core.reason import sentences
    from ops.terminal.words import page_words
    from web.design.language import ReadersLanguage

    page_words()  # loads every module of the core
    found = sentences()
    assert len(found) > 250
    with translation.override(strange):
        for code, english in found.items():
            said = ReadersLanguage().sentence(code, english)
            names = {n for _t, n, _s, _c in Formatter().parse(english) if n}
            assert {n for _t, n, _s, _c in Formatter().parse(said) if n} == names, code
            rest = " ".join(text for text, *_ in Formatter().parse(english))
            assert said != english or not plain_in(rest), code


def test_a_clinic_reads_reasons_in_its_own_language(signed_in, clinic, person, version, strange):
    from core.grading.decide import decisions
    from web.review.course_file import CourseFile

    course = CourseFile.now(person)
    first = decisions(course.history, course.today, course.rules)[0]
    (why, *_more) = first.against or first.reasons
    page = reverse("review:client", args=[person.pk])
    assert escape(str(why)) in signed_in.get(page).content.decode()
    clinic.language = strange
    clinic.save()
    with translation.override(strange):
        in_theirs = str(why)
    assert in_theirs != why.words
    html = signed_in.get(page).content.decode()
    assert f'<html lang="{strange}">' in html
    assert escape(in_theirs) in html


@pytest.mark.parametrize(
    ("language", "day"),
    [("en", "Larynx examined May 25, 2026"), ("en-gb", "Larynx examined 25 May 2026")],
)
def test_days_are_written_as_the_clinic_writes_them(signed_in, clinic, person, language, day):
    clinic.language = language
    clinic.save()
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert day in " ".join(page.split())


def test_days_and_numbers_of_a_reason_are_written_by_locale():
    from core.reason import says

    late = says("test_locale", "since {day:day}: {seconds:g} s")(day="2026-06-12", seconds=2.5)
    with translation.override("de"):
        assert str(late) == "since 12. Juni 2026: 2,5 s"


def test_a_british_clinic_reads_british_spelling(signed_in, clinic, person, version):
    from django.utils.translation import gettext

    words = "Version %(number)s is active and will be practiced from the next home session."
    assert gettext(words) == words
    with translation.override("en-gb"):
        assert "will be practised from" in gettext(words)
        assert "do not practise at full strength" in gettext(
            "Today: %(event)s. Warm up softly and do not practice at full strength."
        )
        assert gettext("Practice") == "Practice"


def test_the_british_words_are_those_of_today(tmp_path):
    from ops.terminal.british import PLACE, write

    write(tmp_path)
    for name in ("django.po", "django.mo"):
        assert (PLACE / name).read_bytes() == (tmp_path / name).read_bytes(), (
            "python -m ops.terminal.british"
        )


def test_no_british_spelling_is_left_in_the_american_words():
    from ops.terminal.words import page_words, script_words

    for message in (*page_words(), *script_words()):
        for words in message.id if isinstance(message.id, tuple) else (message.id,):
            assert "practis" not in words.lower(), words


def test_what_is_stored_of_a_client_is_in_no_language(person, clinician, version, strange):
    """Whoever's upload works the row out: what Rounds reads of it is codes, names and English."""
    from web.review.models import CaseloadRow, ComingNeed
    from web.review.usecases.refresh_row import rebuild_row

    red_flag(person, clinician)  # the program is on hold, with the reasons
    with translation.override(strange):
        rebuild_row(person)
    needs = list(ComingNeed.objects.filter(client=person).values("act", "about", "words"))
    row = CaseloadRow.objects.filter(client=person).values("course", "stretches", "screening")
    stored = json.dumps([needs, list(row)], ensure_ascii=False, default=str)
    assert any(need["words"] for need in needs)
    assert not set("áéíóúƀćđ") & set(stored)


def test_routines_in_a_reason_are_named_by_code(strange):
    from core.program.routine_words import routine_label
    from tests.core.fitted import proposed

    routine = proposed("sustained").program.routines[0]
    with translation.override(strange):
        label = routine_label(routine)
        assert str(label) != label.words
    assert plain_in(label.words)
