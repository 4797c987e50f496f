"""A client's pages in a language two fifths longer, on a small telephone: nothing is cut off."""

import pytest

from tests.browser.conftest import begin_practice, enter
from tests.factories.browser_access import access_for
from web.clients.models import Client

SMALL = {"width": 360, "height": 740}
CUT_OFF = """() => {
  const found = [];
  const words = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (words.nextNode()) {
    const text = words.currentNode, parent = text.parentElement;
    if (!text.textContent.trim() || !parent.checkVisibility() || parent.closest("svg, script, option")) continue;
    const range = document.createRange();
    range.selectNodeContents(text);
    const hidden = parent.closest("button, a.button, select, .scale")?.getBoundingClientRect();
    for (const box of range.getClientRects()) {
      const out = box.right > innerWidth + 0.5 || box.left < -0.5;
      if (out || (hidden && (box.right > hidden.right + 0.5 || box.bottom > hidden.bottom + 0.5)))
        found.push(text.textContent.trim().slice(0, 40));
    }
  }
  return found;
}"""
TOO_LONG = """() => {
  const line = document.createElement("p");
  line.textContent = "a line that does not fit on a small telephone at all";
  line.style.whiteSpace = "nowrap";
  document.body.append(line);
}"""
SHOW = """(name) => document.querySelectorAll("[data-screen]").forEach((one) => {
  one.hidden = one.dataset.screen !== name;
})"""
SCREENS = ("start", "hold", "rest", "pause", "strain", "end", "stop", "trouble")
SCHOOLS = [
    ("sustained", "semi_reset", "cool_down"),
    ("loudness_vowels", "carry_over"),
    ("breath_counts", "articulation", "range_full"),
]


@pytest.fixture
def speaking(strange, person):
    Client.objects.filter(pk=person.pk).update(language=strange)
    person.refresh_from_db()
    return person


@pytest.mark.parametrize("schools", SCHOOLS)
def test_nothing_is_cut_off_on_a_small_telephone(browsers, site, speaking, clinician, schools):
    access, _version = access_for(speaking, clinician, *schools)
    page = browsers()
    page.set_viewport_size(SMALL)
    page.goto(f"{site.url}/c/{access.pk}/")
    assert page.evaluate(CUT_OFF) == []
    enter(page, site, access)
    assert page.evaluate(CUT_OFF) == []
    begin_practice(page)
    assert page.inner_text("#step-name")
    for screen in SCREENS:
        page.evaluate(SHOW, screen)
        assert page.evaluate(CUT_OFF) == [], screen
    page.goto(f"{site.url}/c/{access.pk}/reeds/")
    assert page.evaluate(CUT_OFF) == []
    assert not page.errors


def test_what_is_cut_off_is_seen(browsers, site, access):
    page = browsers()
    page.set_viewport_size(SMALL)
    page.goto(f"{site.url}/c/{access.pk}/")
    page.evaluate(TOO_LONG)
    assert page.evaluate(CUT_OFF) == ["a line that does not fit on a small tele"]
