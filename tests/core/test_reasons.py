"""Reasons: a code with values, the sentence beside the rule, words for what nobody says any more."""

import importlib
import pkgutil

import pytest
from pydantic import TypeAdapter, ValidationError

import core
from core.errors import PlanError
from core.fitting.why_words import why_of
from core.reason import Because, Reason, joined, said_codes, says, table_reason, written
from core.safety.circumstances import Circumstance
from tests.core.fitted import said

LATE = says("test_late", "{days} days late, since {since:day}: {why}")


def test_a_reason_is_its_code_and_values_and_is_said_in_its_sentence():
    reason = LATE(days=3, since="2026-06-12", why=written("the boat"))
    assert reason.code == "test_late"
    assert str(reason) == "3 days late, since June 12, 2026: the boat"
    assert f"{reason}!" == "3 days late, since June 12, 2026: the boat!"
    assert LATE(days=3, since="2026-06-12", why=written("the boat")) == reason
    assert LATE(days=4, since="2026-06-12", why=written("the boat")) != reason


def test_values_that_are_missing_or_too_many_are_refused_where_the_reason_is_made():
    with pytest.raises(TypeError, match="days"):
        LATE(since="2026-06-12", why=written("x"))
    with pytest.raises(TypeError):
        LATE(days=3, since="2026-06-12", why=written("x"), weather="rain")


def test_a_code_has_one_sentence():
    with pytest.raises(ValueError, match="test_late"):
        says("test_late", "another sentence")


def test_several_values_are_listed():
    assert str(says("test_list", "{seconds:list} s")(seconds=(8.5, 9.0, 7.0))) == "8.5, 9, 7 s"


def test_words_as_they_were_said_are_shown_only_where_nobody_says_the_code():
    gone = Reason("said_in_an_older_version", {"days": 3}, "three days, as it was said")
    assert str(gone) == "three days, as it was said"
    reworded = Reason("test_late", {"days": 3, "since": "2026-06-12", "why": "x"}, "old words")
    assert str(reworded) == "3 days late, since June 12, 2026: x"
    lacking = Reason("test_late", {}, "old words")
    assert str(lacking) == "old words"
    assert reworded == Reason("test_late", {"days": 3, "since": "2026-06-12", "why": "x"})


def test_reasons_read_back_equal_and_plain_words_are_somebody_s_words():
    adapter = TypeAdapter(Because)
    whole = joined(
        LATE(days=3, since="2026-06-12", why=written("x")), table_reason("rule", "w", many=(1, 2))
    )
    assert adapter.validate_json(adapter.dump_json(whole), strict=True) == whole
    assert adapter.validate_json('"by hand"', strict=True) == written("by hand")
    assert said([whole], "test_late").params["days"] == 3
    for odd in ('{"code": ""}', '{"code": "x", "params": {"a": null}}', "3", '{"words": "x"}'):
        with pytest.raises(ValidationError):
            adapter.validate_json(odd, strict=True)


def test_no_table_uses_a_code_that_a_sentence_is_said_for():
    for module in pkgutil.walk_packages(core.__path__, "core."):
        importlib.import_module(module.name)
    of_tables = {
        *(one.value for one in Circumstance),
        *("school_line", "purpose", "rung"),
    }
    assert not of_tables & said_codes()
    assert {"too_deep", "stop_sign_open", "noisy", "not_screened"} <= said_codes()


def test_an_error_without_a_sentence_is_named_by_its_code():
    assert why_of(PlanError("range_too_small", semitones=3, needed=6)).params["needed"] == 6
    unknown = why_of(PlanError("never_heard_of"))
    assert (unknown.code, "never_heard_of" in str(unknown)) == ("never_heard_of", True)
    assert "no school" in str(why_of(PlanError("school_unknown", came="x", known=["a", "b"])))


class Backward:
    """Says every sentence it knows with its words turned round, numbers with a comma, days as ISO."""

    def __init__(self, **sentences):
        self.known = sentences

    def sentence(self, code, english):
        return self.known.get(code, english)

    def day(self, day):
        return day.isoformat()

    def number(self, text):
        return text.replace(".", ",")


SHORT = says("test_short", "{seconds:g} s, at most {most_s:.1f} s ({others:list})")


def test_a_sentence_is_translated_by_its_code_with_what_stands_inside_it():
    inner = SHORT(seconds=2.5, most_s=3.0, others=(1.5, 2))
    outer = LATE(days=3, since="2026-06-12", why=inner)
    spoken = Backward(
        test_late="{why} – depuis {since:day}, {days} jours",
        test_short="{most_s:.1f} max., {seconds:g} ({others:list})",
    )
    assert outer.in_language(spoken) == "3,0 max., 2,5 (1,5, 2) – depuis 2026-06-12, 3 jours"
    # what is stored and what the terminal says stays English
    assert outer.words == str(outer)
    assert outer.words.endswith("2.5 s, at most 3.0 s (1.5, 2)")


def test_a_translation_with_a_value_that_is_not_there_says_it_in_english():
    reason = SHORT(seconds=2.5, most_s=3.0, others=())
    assert reason.in_language(Backward(test_short="{minutes} min")) == reason.words


def test_words_of_a_table_are_translated_by_their_code_too():
    reason = table_reason("purpose", "Wake the voice.", task="hum")
    assert reason.in_language(Backward(purpose="Réveiller la voix.")) == "Réveiller la voix."
