"""Led by the hand: what goes by itself, what is never lost between pages, tabs and devices."""

import pytest

from lab.simulate.voice import Voice, sing
from tests.browser.conftest import (
    begin_practice,
    do_by_stopwatch,
    enter,
    go_on,
    tap,
    wait_until,
)
from web.practice.models import Attempt, HomeSession

SHOWN = "(screen) => document.getElementById('player').dataset.shown === screen"
HOLDING = "() => parseFloat(document.getElementById('seconds').textContent) > 0.5"


@pytest.fixture(scope="module")
def sung():
    return sing(Voice(f0_hz=311.127, seconds=3.0, lead_s=0.9, tail_s=3.0, seed=3), 48_000)


def test_two_holds_follow_each_other_without_a_tap(browsers, site, version, access, sung, tmp_path):
    page = browsers(wav=sung.as_wav(), folder=tmp_path)
    enter(page, site, access)
    begin_practice(page, by_hand=False)
    assert "Begins in" in page.inner_text("#words")
    for screen in ("hold", "rest"):
        page.wait_for_function(SHOWN, arg=screen)
    assert page.inner_text("#last-seconds").startswith("3.")
    assert "Next: Warm-up hold" in page.inner_text("#next-name")
    page.click("#skip-rest")
    page.wait_for_function(SHOWN, arg="strain")
    rows = list(Attempt.objects.order_by("started_at"))
    assert [(row.repetition, row.taken) for row in rows] == [(1, "live"), (2, "live")]
    assert [row.seconds for row in rows] == pytest.approx([sung.hold_s] * 2, abs=0.1)
    assert not page.errors


def test_a_voice_that_never_starts_is_helped_and_then_left_the_stopwatch(
    browsers, site, version, access, tmp_path
):
    quiet = sing(Voice(f0_hz=220.0, seconds=0.5, level_db=-90.0), 48_000)
    page = browsers(wav=quiet.as_wav(), folder=tmp_path)
    enter(page, site, access)
    begin_practice(page)
    tap(page, "#hold")
    page.wait_for_selector("text=Take your time: breathe in")
    page.wait_for_selector("#keep-watched:visible")
    # it waits: nothing begins by itself where nothing was heard
    assert page.inner_text("#rest-seconds") == ""
    page.click("#keep-watched")
    kept = wait_until(lambda: Attempt.objects.filter(taken="stopwatch").first())
    assert kept.seconds > 17


def test_what_was_begun_goes_on_on_another_device(browsers, site, version, access):
    first = browsers()
    enter(first, site, access)
    begin_practice(first, listen_with="stopwatch")
    do_by_stopwatch(first)
    go_on(first)
    do_by_stopwatch(first)
    wait_until(lambda: Attempt.objects.count() == 2)
    second = browsers()
    enter(second, site, access)
    second.click("a.main-action")
    second.select_option("#input", "stopwatch")
    second.click("#nothing-new")
    second.wait_for_function(SHOWN, arg="strain")
    second.click("#strain button >> nth=2")
    second.wait_for_selector("#skip-rest:visible")
    second.click("#skip-rest")
    second.wait_for_selector("#hold:visible")
    assert "2 are done" in second.inner_text("#resumed-words")
    assert second.inner_text("#where") == "3 / 16"
    assert HomeSession.objects.filter(attempts__isnull=False).distinct().count() == 1


def test_another_tab_leaves_a_running_hold_alone(browsers, site, version, access, sung, tmp_path):
    page = browsers(wav=sung.as_wav(), folder=tmp_path)
    enter(page, site, access)
    begin_practice(page)
    tap(page, "#hold")
    page.wait_for_function(HOLDING)
    other = page.context.new_page()
    other.goto(f"{site.url}/c/{access.pk}/today/")
    other.goto(f"{site.url}/c/{access.pk}/practice/")
    other.wait_for_selector("#nothing-new:enabled")
    page.wait_for_function(SHOWN, arg="rest")
    row = Attempt.objects.get()
    assert (row.state, row.taken) == ("measured", "live")
    assert row.seconds == pytest.approx(sung.hold_s, abs=0.1)


def test_a_hold_left_by_a_crash_is_sent_from_the_next_page_of_any_kind(
    browsers, site, version, access, sung, tmp_path
):
    page = browsers(wav=sung.as_wav(), folder=tmp_path)
    enter(page, site, access)
    begin_practice(page)
    tap(page, "#hold")
    page.wait_for_function(HOLDING)
    page.goto("about:blank")
    page.goto(f"{site.url}/c/{access.pk}/today/")
    row = wait_until(lambda: Attempt.objects.first())
    assert (row.state, row.measurement) == ("interrupted", None)


def test_what_waits_is_told_and_sent_from_today_too(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    page.route("**/attempts/**", lambda route: route.abort())
    do_by_stopwatch(page)
    page.goto(f"{site.url}/c/{access.pk}/today/")
    page.wait_for_selector("#unsent:visible")
    assert "1 saved on this page" in page.inner_text("#unsent")
    page.unroute("**/attempts/**")
    wait_until(lambda: Attempt.objects.count() == 1)
    page.wait_for_selector("#unsent", state="hidden")


def test_a_page_loaded_again_without_the_server_goes_on_where_it_was(
    browsers, site, version, access
):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    kept = "() => caches.open('still-reed-shell-1').then((c) => c.keys()).then((k) => k.length)"
    wait_until(lambda: page.evaluate(kept) > 8)
    practice = page.url
    do_by_stopwatch(page)
    page.goto("about:blank")
    site.stop()
    try:
        page.goto(practice)
        page.select_option("#input", "stopwatch")
        page.click("#nothing-new")
        page.wait_for_selector("#resumed:visible")
        assert page.inner_text("#where") == "2 / 16"
    finally:
        site.start()
    assert not page.errors


def test_the_note_of_a_hold_is_heard_and_can_be_heard_again(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    begin_practice(page)
    for _again in range(2):
        page.click("#tone")
        page.wait_for_selector("#tone:disabled")
        page.wait_for_selector("#tone:enabled")
    assert not page.errors


def test_what_is_new_since_last_time_ends_it_before_a_note(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    page.click("a.main-action")
    page.click("#something-new")
    page.click("[data-flag=blood]")
    page.wait_for_url("**/finished/**")
    assert "Call the emergency number now: 112." in page.inner_text("main")
    session = HomeSession.objects.get()
    assert (session.stop_sign, session.outcome) == ("another", "stopped")


def test_a_sign_that_cannot_be_told_says_whom_to_call_and_nothing_is_practiced_before_it_is(
    browsers, site, version, access
):
    page = browsers()
    enter(page, site, access)
    page.click("a.main-action")
    page.wait_for_selector("#something-new:enabled")
    site.stop()
    try:
        page.click("#something-new")
        page.click("[data-flag=blood]")
        page.wait_for_selector("#trouble:visible")
        shown = page.inner_text("[data-screen=trouble]")
        assert "could not be told" in shown
        assert "112" in shown
    finally:
        site.start()
    tap(page, "#again")
    page.wait_for_url("**/finished/**")
    session = HomeSession.objects.get()
    assert (session.stop_sign, session.attempts.count()) == ("another", 0)


def test_a_hoarse_morning_is_told_with_the_tap_that_starts(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    page.click("a.main-action")
    page.check("#hoarser")
    page.click("#nothing-new")
    session = wait_until(lambda: HomeSession.objects.filter(hoarser=True).first())
    assert session.soft_high_lost is False


def test_a_trembling_hand_taps_twice_and_once_counts(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    page.dblclick("#hold")
    page.wait_for_selector("#hold.hold-on")
    page.wait_for_function(HOLDING)
    assert page.get_attribute("#player", "data-shown") == "hold"
    assert not Attempt.objects.exists()
