"""The Bench as a workbench: each of the four programs built and changed by hand, and what it took."""

import time

import pytest

from tests.browser.conftest import sign_in
from tests.conftest import baseline_of, enrol
from tests.factories.accessibility import violations
from web.programs.models import Draft, ProgramVersion

WITHIN_S, WITHIN_PRESSES = 180, 40
COUNT = """() => {
  const add = () => sessionStorage.setItem('presses', 1 + Number(sessionStorage.getItem('presses') ?? 0));
  for (const kind of ['keydown', 'pointerdown']) document.addEventListener(kind, add, true);
}"""


class Bench:
    """The Bench of a client in a browser, with the presses of keys and of the mouse that were counted."""

    def __init__(self, browsers, site, person, clinician, **more) -> None:
        self.page = browsers(**more)
        sign_in(self.page, site, clinician)
        self.page.add_init_script(f"({COUNT})()")
        self.person = person
        self.address = f"{site.url}/clients/{person.pk}"
        self.page.goto(f"{self.address}/")
        self.page.evaluate("() => sessionStorage.setItem('presses', 0)")
        self.began = time.monotonic()
        self.page.click("nav >> text=Bench")

    def propose(self, *schools: str) -> None:
        self.page.wait_for_selector("input[name=school][value=sustained]:checked")
        self.page.uncheck("input[name=school][value=sustained]")
        for school in schools:
            self.page.check(f"input[name=school][value={school}]")
        self.page.click("button >> text=Propose program")
        self.page.wait_for_selector("#bench[data-ready] #step")

    @property
    def draft(self) -> Draft:
        return Draft.objects.get(client=self.person)

    def until(self, revision: int) -> None:
        self.page.wait_for_selector(f"[data-revision='{revision}']")

    def pick(self, name: str) -> None:
        self.page.click(f".steps a >> text={name}")
        self.page.wait_for_selector(f".steps [aria-current] >> text={name}")

    def set(self, field: str, value: str) -> None:
        """Typed over and left with Tab, as by hand."""
        before = self.draft.revision
        self.page.focus(f"#f-{field}")
        self.page.keyboard.press("Control+A")
        self.page.keyboard.type(value)
        self.page.keyboard.press("Tab")
        self.until(before + 1)

    def step(self, name: str):
        return next(one for one in self.draft.program.steps if one.name == name)

    def activate(self) -> ProgramVersion:
        """Active, within the time and the presses that were asked for."""
        self.page.click("text=Activate program")
        self.page.wait_for_url(f"{self.address}/")
        took = time.monotonic() - self.began
        presses = int(self.page.evaluate("() => sessionStorage.getItem('presses')"))
        assert took < WITHIN_S
        assert 0 < presses <= WITHIN_PRESSES
        assert not self.page.errors
        return ProgramVersion.objects.get(client=self.person)


def pulled(page, grip, dx, dy):
    box = grip.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + dx, y + dy, steps=6)
    page.mouse.up()


def test_sustained_by_mouse_a_glide_pulled_a_step_dragged_another_added(
    browsers, site, person, clinician
):
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician)
    bench.propose("sustained")
    bench.pick("Stretch glide")
    end = bench.page.locator("#bed .grip[data-across=end] .knob")
    pulled(bench.page, end, 0, 40)
    bench.until(2)
    assert bench.step("Stretch glide").target.seconds < 8
    lines = bench.page.locator(".steps li")
    lines.nth(3).locator(".hold-here").drag_to(lines.nth(0))
    bench.until(3)
    assert bench.draft.program.steps[0].name == "Power notes"
    bench.page.fill("#find-task", "hiss")
    bench.page.click("#shelf button >> text=Long hiss")
    bench.until(4)
    bench.page.click("[data-weekday='7']")
    bench.until(5)
    version = bench.activate()
    assert version.program.routine("ladder").dose.weekdays == (1, 2, 3, 4, 5, 6)
    assert [step.name for step in version.program.steps][:2] == ["Long hiss", "Power notes"]


def test_tube_by_keyboard_depth_rung_and_a_step_found_as_it_is_typed(
    browsers, site, clinic, clinician
):
    person = enrol(
        clinic, clinician, name="Silas Merrow", equipment=["thin_straw", "glass_of_water"]
    )
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician)
    bench.propose("semi_shallow")
    straw = bench.draft.program.steps[0]
    bench.pick(straw.name)
    depth = bench.page.locator(".grip[data-up='tube.depth_cm']")
    depth.focus()
    bench.page.keyboard.press("ArrowDown")
    bench.until(2)
    assert bench.step(straw.name).tube.depth_cm == straw.tube.depth_cm + 0.5
    # the grip is still in hand
    assert bench.page.evaluate("() => document.activeElement.dataset.up") == "tube.depth_cm"
    bench.page.keyboard.press("a")
    bench.page.keyboard.type("siren")
    bench.page.keyboard.press("Enter")
    bench.until(3)
    assert any(step.task == "siren" for step in bench.draft.program.steps)
    bench.page.evaluate("() => document.activeElement.blur()")
    bench.page.keyboard.press("u")
    bench.until(4)
    bench.page.keyboard.press("U")
    bench.until(5)
    assert any(step.task == "siren" for step in bench.draft.program.steps)
    version = bench.activate()
    assert version.program.steps[0].tube.depth_cm == straw.tube.depth_cm + 0.5


def test_loudness_by_keyboard_the_level_a_cue_and_times_of_day(browsers, site, clinic, clinician):
    person = enrol(clinic, clinician, name="Ines Farrow")
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician)
    bench.propose("loudness_vowels")
    bench.pick("Your own everyday phrases")
    bench.page.locator("#bed .grip[data-up='level.effort_high']").focus()
    bench.page.keyboard.press("ArrowDown")
    bench.until(2)
    assert bench.step("Your own everyday phrases").level.effort_high == 8
    bench.set("presented-cue", "to the quay")
    bench.page.focus("#c-times")
    bench.page.keyboard.type("9:30")
    bench.page.keyboard.press("Tab")
    bench.until(4)
    version = bench.activate()
    own = next(s for s in version.program.steps if s.name == "Your own everyday phrases")
    assert own.presented.cue == "to the quay"
    assert [f"{at:%H:%M}" for at in version.program.routines[0].dose.times] == ["09:30"]


def test_range_by_mouse_and_keyboard_a_key_off_the_tempo_and_a_rung_out(
    browsers, site, person, clinician
):
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician)
    bench.propose("range_full")
    bench.pick("Three-note pattern")
    before = bench.step("Three-note pattern").target.keys
    top = max(before)
    bench.page.click(f"[data-toggle='{top}']")
    bench.until(2)
    assert top not in bench.step("Three-note pattern").target.keys
    bench.set("tempo_bpm", "80")
    bench.page.click("text=Take rungs out")
    bench.page.click("[data-edit=rung_out] >> nth=-1")
    bench.until(4)
    version = bench.activate()
    pattern = next(s for s in version.program.steps if s.name == "Three-note pattern")
    assert pattern.target.tempo_bpm == 80


def test_what_is_beyond_the_client_is_said_at_once_and_stays_off(browsers, site, person, clinician):
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician)
    bench.propose("sustained")
    bench.pick("Stretch glide")
    bench.set("seconds", "12")
    assert "longer than the 9.4 s shown so far" in bench.page.inner_text("#bench")
    bench.page.focus("#f-seconds")
    bench.page.keyboard.press("Control+A")
    bench.page.keyboard.type("900")
    bench.page.keyboard.press("Tab")
    bench.page.wait_for_selector("#bench-words:not([hidden])")
    assert "900" in bench.page.inner_text("#bench-words")
    assert bench.step("Stretch glide").target.seconds == 12
    bench.page.click("text=Activate program")
    bench.page.wait_for_selector(".said.error")
    assert not ProgramVersion.objects.exists()


def test_a_closed_tab_and_a_server_started_anew_lose_no_edit(browsers, site, person, clinician):
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician)
    bench.propose("sustained")
    bench.pick("Power notes")
    bench.set("repetitions", "4")
    bench.page.close()
    site.stop()
    site.start()
    again = browsers()
    sign_in(again, site, clinician)
    again.goto(f"{bench.address}/program/")
    again.wait_for_selector("#bench[data-ready]")
    assert again.input_value("#f-repetitions") == "4"
    again.click("text=Undo")
    again.wait_for_selector("[data-revision='3']")
    assert bench.step("Power notes").repetitions == 2


def test_what_is_being_typed_outlives_the_answer_to_the_field_before(
    browsers, site, person, clinician
):
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician)
    bench.propose("sustained")
    bench.pick("Power notes")
    page, under_way = bench.page, []

    def hold_the_first(route):
        if under_way:
            route.continue_()
        under_way.append(route)

    page.route("**/program/edit/", hold_the_first)
    page.focus("#f-repetitions")
    page.keyboard.press("Control+A")
    page.keyboard.type("4")
    with page.expect_request("**/program/edit/"):
        page.keyboard.press("Tab")
    page.focus("#f-rest_s")
    page.keyboard.press("Control+A")
    page.keyboard.type("1")
    under_way[0].continue_()
    bench.until(2)
    assert page.input_value("#f-repetitions") == "4"
    page.keyboard.type("2")
    page.keyboard.press("Tab")
    bench.until(3)
    assert bench.step("Power notes").repetitions == 4
    assert bench.step("Power notes").rest_s == 12


def test_what_is_typed_for_one_step_never_reaches_another(browsers, site, person, clinician):
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician)
    bench.propose("sustained")
    bench.pick("Power notes")
    page, under_way = bench.page, []
    page.route("**/program/edit/", lambda route: under_way.append(route))
    rest_s = bench.step("Warm-up hold").rest_s
    with page.expect_request("**/program/edit/"):
        page.click(".steps a >> text=Warm-up hold")
    page.focus("#f-rest_s")
    page.keyboard.press("Control+A")
    page.keyboard.type("77")
    under_way[0].continue_()
    page.wait_for_selector(".steps [aria-current] >> text=Warm-up hold")
    assert float(page.input_value("#f-rest_s")) == rest_s


@pytest.mark.parametrize(
    "schools", [("sustained",), ("loudness_vowels", "range_full"), ("breath_beats", "breath_hiss")]
)
def test_nothing_bars_the_way_on_the_bench(browsers, site, person, clinician, schools):
    baseline_of(person, clinician)
    bench = Bench(browsers, site, person, clinician, bypass_csp=True)
    bench.propose(*schools)
    for name in [step.name for step in bench.draft.program.steps][:4]:
        bench.pick(name)
        assert violations(bench.page) == {}
