"""The drawings tell the truth: heights, places, shapes, words."""

import re
from datetime import date, timedelta
from xml.etree import ElementTree

import numpy as np
import pytest

from core.dose.tide import Stroke, TideDay
from core.notes.note import Note
from core.notes.range import ComfortableRange
from web.design.drawings.own_reeds import OwnReed, own_reeds
from web.design.drawings.reed_bed import Bed, Reed, reed_bed
from web.design.drawings.svg import Svg
from web.design.drawings.tide_table import tide_strip, tide_table

SVG = "{http://www.w3.org/2000/svg}"
COMFORT = ComfortableRange(
    lowest=Note.named("G3"),
    highest=Note.named("G4"),
    transition=Note.named("E4"),
    speaking=Note.named("A3"),
)


def parsed(svg):
    return ElementTree.fromstring(str(svg))


def reed(name="C4", seconds=7.0, **changes):
    return Reed(note=Note.named(name), seconds=seconds, name="Power notes", **changes)


def bed(*reeds, **changes):
    return parsed(reed_bed(Bed(comfort=COMFORT, reeds=reeds, **{"goal_s": 17.6} | changes)))


def groups(tree):
    return [g for g in tree.iter(f"{SVG}g") if g.get("class") == "reed"]


def head_y(group):
    return float(next(group.iter(f"{SVG}rect")).get("y"))


def head_x(group):
    return float(next(group.iter(f"{SVG}rect")).get("x"))


def texts(tree):
    return [t.text for t in tree.iter(f"{SVG}text")]


def test_longer_holds_stand_taller_in_proportion():
    low, middle, high = groups(bed(reed("C4", 4.0), reed("D4", 8.0), reed("F4", 12.0)))
    assert head_y(low) > head_y(middle) > head_y(high)
    assert head_y(low) - head_y(middle) == pytest.approx(head_y(middle) - head_y(high), abs=0.05)


def test_higher_notes_stand_further_right_by_semitones():
    c, d, f = groups(bed(reed("C4"), reed("D4"), reed("F4")))
    assert (head_x(f) - head_x(c)) / (head_x(d) - head_x(c)) == pytest.approx(5 / 2, abs=0.01)


def test_the_foot_names_notes_with_hz_and_marks_the_range():
    words = texts(bed(reed("B♭3"), a4_hz=442.0))
    assert {"B♭3", "G3", "G4", "lowest", "highest", "transition E4", "speaking A3"} <= set(words)
    assert "234 Hz" in words
    assert "goal 17.6 s" in words


def test_a_reed_outside_the_range_bends_and_says_why():
    why = str(COMFORT.why_outside(Note.named("B♭4")))
    tree = bed(reed("C4"), reed("B♭4", why_outside=why))
    straight, bent = groups(tree)
    assert why in bent.find(f"{SVG}title").text
    stem = re.findall(r"[-\d.]+", bent.find(f"{SVG}path").get("d"))
    upright = re.findall(r"[-\d.]+", straight.find(f"{SVG}path").get("d"))
    assert float(stem[4]) - float(stem[0]) > 10
    assert float(upright[4]) - float(upright[0]) == 0


def test_attempts_are_rings_at_their_own_height():
    tree = bed(reed("C4", 7.0, attempts_s=[7.0, 9.0]))
    rings = [float(c.get("cy")) for c in tree.iter(f"{SVG}circle")]
    assert rings[0] == pytest.approx(head_y(groups(tree)[0]), abs=0.05)
    assert rings[1] < rings[0]


def test_only_an_editable_bed_can_be_focused_and_reads_out_its_values():
    still = groups(bed(reed("C4", key="a:0")))[0]
    live = groups(bed(reed("C4", key="a:0"), editable=True))[0]
    assert still.get("tabindex") is None
    assert (live.get("role"), live.get("tabindex")) == ("slider", "0")
    assert live.get("aria-valuetext") == "C4, 7 seconds"
    assert live.get("data-key") == "a:0"


def test_no_hertz_stand_on_each_other_in_a_wide_range():
    """Two octaves: a semitone is 24 px, and "165" beside "175" would run into each other."""
    wide = ComfortableRange(lowest=Note.named("E2"), highest=Note.named("E4"))
    tree = parsed(
        reed_bed(Bed(comfort=wide, reeds=[reed("E3", 7.0), reed("F3", 7.0), reed("C3", 7.0)]))
    )
    said = texts(tree)
    assert {"E3", "F3", "C3", "131"} <= {word.removesuffix(" Hz") for word in said if word}
    assert not {"165", "175"} & set(said)


@pytest.mark.parametrize("editable", [False, True])
def test_the_same_seconds_beside_each_other_on_one_note_are_written_once(editable):
    """ "ah, oh, ee" on one note stand 16 units apart: "8.5" three times would run into each other."""
    vowels = [reed("B3", 8.5, beside=place) for place in range(3)]
    drawn = reed_bed(Bed(comfort=COMFORT, reeds=[*vowels, reed("D4", 8.5)], editable=editable))
    assert texts(parsed(drawn)).count("8.5") == 2


def test_drawings_say_what_they_are():
    assert bed(reed(), label="My label").get("aria-label") == "My label"


def test_what_a_name_holds_cannot_break_out_of_the_drawing():
    svg = Svg(10, 10, label='"><script>', kind="x")
    svg.text(1, 1, "<script>alert(1)</script>")
    tree = parsed(svg.done())
    assert tree.find(f"{SVG}text").text == "<script>alert(1)</script>"
    assert not list(tree.iter("script"))


def own(*reeds):
    return parsed(own_reeds(reeds, label="mine"))


def stems(tree):
    return list(tree.iter(f"{SVG}rect"))


def test_a_clients_drawing_ends_just_over_the_target_and_the_number_is_true():
    at_cap = OwnReed(name="1", target_s=7.0, best_s=7.7, calm=True)
    pressed = OwnReed(name="2", target_s=7.0, best_s=19.0, calm=False)
    calm, loud = stems(own(at_cap, pressed))
    assert calm.get("height") == loud.get("height")
    assert calm.get("fill") != loud.get("fill")
    assert "19.0 s" in texts(own(pressed))


def test_a_note_not_held_yet_has_no_stem():
    tree = own(OwnReed(name="1", target_s=7.0, best_s=None, calm=False))
    assert stems(tree) == []
    assert "–" in texts(tree)


def test_client_drawings_are_at_least_20_px_on_a_phone():
    tree = own(OwnReed(name="1", target_s=7.0, best_s=6.0, calm=True))
    shown_width = 360 - 2 * 20
    scale = shown_width / float(tree.get("viewBox").split()[2])
    sizes = [float(t.get("font-size")) * scale for t in tree.iter(f"{SVG}text")]
    assert min(sizes) >= 20


MONDAY = date(2026, 6, 1)


def strokes_in(path):
    """The upper left corner, or left end, of every stroke of a path, px."""
    found = re.findall(r"M([\d.]+) ([\d.]+)", path.get("d"))
    return [(float(x), float(y)) for x, y in found]


def corner(path):
    (only,) = strokes_in(path)
    return only


def week(*strokes):
    return [TideDay(MONDAY + timedelta(days=n), {"practice": s}) for n, s in enumerate(strokes)]


def test_each_stroke_has_a_shape_of_its_own_and_words():
    shapes = {}
    for stroke in Stroke:
        tree = parsed(tide_table(week((stroke,)), label="x"))
        group = next(tree.iter(f"{SVG}g"))
        assert stroke.value in group.find(f"{SVG}title").text
        shapes[stroke] = ElementTree.tostring(group).split(b"</ns0:title>")[1]
    assert len(set(shapes.values())) == len(Stroke)


def test_weeks_run_down_and_days_across():
    table = parsed(tide_table(week(*[(Stroke.KEPT,)] * 14), label="x"))
    bars = [corner(path) for path in table.iter(f"{SVG}path")]
    assert len(bars) == 14
    assert {bars[0][1], bars[7][1]} == {bars[3][1], bars[10][1]}
    assert bars[0][0] == bars[7][0]
    assert {"Mon", "Sun", "Jun 1", "Jun 8"} <= set(texts(table))


def test_the_strip_keeps_two_rows_and_puts_added_ones_beside():
    strokes = (Stroke.KEPT, Stroke.KEPT, Stroke.ADDED, Stroke.ADDED)
    strip = parsed(tide_strip(week(strokes), label="x"))
    kept, added = strip.iter(f"{SVG}path")
    bars, dots = strokes_in(kept), strokes_in(added)
    assert (len(bars), len(dots)) == (2, 2)
    wide = 7.0
    assert all(x >= bar_x + wide for x, _y in dots for bar_x, _bar_y in bars)


def test_without_a_voice_the_level_has_all_the_room_and_no_notes_are_drawn():
    from web.design.drawings.held_line import HeldLine, held_line

    words = dict.fromkeys(("target", "level", "gap", "jump", "begin", "end"), "w")

    def drawn(f0_hz):
        level = np.linspace(-60, -20, 300)
        line = HeldLine(f0_hz=f0_hz, level_db=level, hop_s=0.01, label="x", words=words)
        return parsed(held_line(line))

    hiss, hum = drawn(np.full(300, np.nan)), drawn(np.full(300, 220.0))

    def height(tree):
        points = next(tree.iter(f"{SVG}polyline")).get("points").split()
        heights = [float(point.split(",")[1]) for point in points]
        return max(heights) - min(heights)

    assert height(hiss) > 2 * height(hum)
    assert "A3" in texts(hum)
    assert not any(text.startswith("A") for text in texts(hiss))


def test_the_hertz_of_neighbouring_notes_do_not_run_into_each_other():
    tree = bed(reed("C4"), reed("C#4"), reed("G3"))
    said = [text.text for text in tree.iter(f"{SVG}text")]
    assert {"262", "277", "196 Hz"} <= set(said)
