"""What the attempts of a step come to in a home session, kind by kind, worked out by hand."""

import pytest

from core.kinds.breath.aim import PaceTarget
from core.kinds.breath.figures import PacedBreath
from core.kinds.bubbles.figures import Bubbling
from core.kinds.level.figures import SpeechFigures
from core.kinds.pattern.aim import PatternTarget
from core.kinds.pattern.figures import SungNote, SungPattern
from core.kinds.registry import kind_of, kinds
from core.kinds.swell_figures import Swell
from core.kinds.sz.figures import Joined
from core.notes.note import Note
from core.reason import table_reason
from core.sound.figures import Break, Glide, Quality, QualityVerdict
from tests.factories.session_attempts import heard, tried


def came(task, tries):
    """Value by code, and by code and note where a figure is of one note."""
    found = kind_of(task).in_session(tries)
    return {(one.code, one.of) if one.of else one.code: one.value for one in found}


def whys(task, tries):
    found = kind_of(task).in_session(tries)
    return {one.code: one.why.code for one in found if one.why is not None}


def test_holds_note_by_note_and_the_note_that_lags():
    steady = {"f0_sd_semitones": 0.2, "trail_off_db": -1.0, "over_db": 0.5}
    shaky = {"f0_sd_semitones": 0.6, "trail_off_db": -5.0, "over_db": 2.5}
    gap = (Break(1.0, 1.2, "gap"), Break(2.0, 2.0, "jump"))
    found = came(
        "hold",
        [
            tried(0, 7.0, note="C4", **steady),
            tried(0, 8.0, note="C4", **steady, breaks=gap),
            tried(1, 3.0, note="D4", **shaky),
            tried(1, 5.0, note="D4", **shaky),
            tried(1, 4.0, note="D4", **steady),
        ],
    )
    assert (found["best_s", "C4"], found["mean_s", "C4"]) == (8.0, 7.5)
    # 8 of 7 s asked for, 5 of 7
    assert found["share", "C4"] == pytest.approx(114.29, abs=0.01)
    assert (found["best_s", "D4"], found["mean_s", "D4"]) == (5.0, 4.0)
    assert found["lags", "D4"] == pytest.approx(71.43, abs=0.01)
    # the middle of 0.2, 0.2, 0.6, 0.6, 0.2
    assert (found["pitch_sd"], found["trail_off"], found["over_db"]) == (0.2, -1.0, 0.5)
    assert (found["gaps"], found["jumps"]) == (1, 1)
    assert "at_length" not in found


def test_no_note_lags_where_all_are_alike_or_there_is_one():
    assert not [key for key in came("hold", [tried(note="C4")]) if key[0] == "lags"]
    alike = [tried(0, note="C4"), tried(1, note="D4")]
    assert not [key for key in came("hold", alike) if key[0] == "lags"]


def test_several_vowels_on_one_note_are_told_apart():
    vowels = [tried(place, 7.0 - place, note="A3") for place in range(3)]
    found = came("hold", vowels)
    assert [found["best_s", name] for name in ("A3 1", "A3 2", "A3 3")] == [7.0, 6.0, 5.0]
    assert ("lags", "A3 3") in found


def test_strong_holds_by_length_and_by_level():
    aimed = {"note": "A3", "aimed_db": 6.0, "target_s": 10.0}
    found = came(
        "hold",
        [
            tried(seconds=10.0, over_db=6.0, **aimed),
            tried(seconds=10.0, over_db=5.4, **aimed),  # more than 0.5 dB under
            tried(seconds=9.0, over_db=5.5, **aimed),
            tried(seconds=9.0, over_db=None, **aimed),
        ],
    )
    assert found["at_length"] == 50.0
    # of the three whose level is known
    assert found["at_level"] == pytest.approx(66.67, abs=0.01)
    # the last is too short, whatever its level was
    assert found["at_both"] == 25.0


def test_what_is_not_known_is_none_with_its_reason_and_never_0():
    by_clock = [tried(figures=None, note="C4")]
    assert came("hold", by_clock)["best_s", "C4"] == 7.0
    assert came("hold", by_clock)["pitch_sd"] is None
    assert whys("hold", by_clock)["pitch_sd"] == "by_the_clock"
    assert whys("hold", by_clock)["gaps"] == "by_the_clock"
    away = [tried(seconds=None, figures=None, interrupted=True)]
    assert whys("hold", away)["best_s"] == "interrupted"
    bad = Quality(QualityVerdict.NOT_MEASURABLE, (table_reason("noisy", "loud"),))
    noisy = [tried(seconds=None, figures=heard(seconds=None, quality=bad))]
    assert whys("hold", noisy)["pitch_sd"] == "noisy"
    no_reference = [tried(level_mean_db=-30.0)]
    assert whys("hold", no_reference)["over_db"] == "no_reference"
    assert whys("hold", [tried()])["pitch_sd"] == "figure_not_known"
    for task in kinds():
        for one in kind_of(task).in_session(by_clock):
            assert (one.value is None) == (one.why is not None), (task, one.code)


def test_swells_and_swelled_hisses():
    grown = [
        tried(task="swell", own=Swell(rise_db=r, fall_db=f, peak_at=0.5))
        for r, f in ((6.0, 5.0), (8.0, 7.0))
    ]
    found = came("swell", grown)
    assert (found["rise"], found["fall"], found["best_s", "1"]) == (7.0, 6.0, 7.0)
    hissed = came(
        "hiss", [tried(task="hiss", level_sd_db=1.5), tried(task="hiss", level_sd_db=2.5)]
    )
    assert (hissed["level_sd"], hissed["best_s"]) == (2.0, 7.0)
    assert "rise" not in hissed
    assert came("hiss", grown)["rise"] == 7.0


def glide(low, high, **more):
    named = {"low_hz": Note.named(low).hz(), "high_hz": Note.named(high).hz()}
    span = Note.named(high).number - Note.named(low).number
    return Glide(**named, span_semitones=span, direction="up", **more)


def test_glides_span_ends_evenness_and_where_they_broke():
    asked = {"task": "glide", "ends": (55, 67), "target_s": 8.0}  # G3 to G4
    whole = glide("G3", "G4", evenness_semitones=0.4, broke_at_hz=(Note.named("E4").hz(),))
    nearly = glide("G♯3", "F♯4", evenness_semitones=0.6)  # each end a semitone short
    short = glide(
        "B♭3", "F4", evenness_semitones=0.8, broke_at_hz=(Note.named("E4").hz(), float("nan"))
    )
    found = came("glide", [tried(glide=one, **asked) for one in (whole, nearly, short)])
    assert found["span"] == 12
    assert (found["low"], found["high"]) == (pytest.approx(55), pytest.approx(67))
    assert found["ends"] == pytest.approx(66.67, abs=0.01)
    assert found["evenness"] == 0.6
    assert found["broke_at", "E4"] == 2
    # downward is the same way
    down = came("glide", [tried(glide=whole, **asked | {"ends": (67, 55)})])
    assert down["ends"] == 100.0


def test_joins_their_gap_and_whether_both_sounds_were_there():
    joined = Joined(switch_s=2.0, gap_s=0.1, hiss_s=2.0, buzz_s=3.0)
    apart = Joined(switch_s=None, gap_s=None, hiss_s=4.0, buzz_s=0.0)
    found = came("sz", [tried(task="sz", own=one) for one in (joined, apart)])
    assert (found["gap"], found["hiss_s"], found["buzz_s"], found["joined"]) == (
        0.1,
        3.0,
        1.5,
        50.0,
    )


def test_bubbles_stop_so_often_in_ten_seconds():
    calm = Bubbling(rate_hz=20.0, swing_db=3.0, stops=())
    stopped = Bubbling(rate_hz=24.0, swing_db=3.0, stops=((1.0, 1.3), (2.0, 2.4), (3.0, 3.2)))
    found = came(
        "bubbles",
        [
            tried(seconds=8.0, task="bubbles", own=calm),
            tried(seconds=4.0, task="bubbles", own=stopped),
        ],
    )
    # 3 stops in 12 s are 2.5 in 10 s
    assert (found["stops"], found["bubbling"], found["best_s"]) == (2.5, 22.0, 8.0)
    assert whys("bubbles", [tried(figures=None)])["stops"] == "by_the_clock"


def sung(key, *cents, missing=(), key_semitones=0):
    notes = [Note.named(key).up(step) for step in (0, 2, 0)]
    return SungPattern(
        notes=tuple(
            SungNote(name=note.name, start_s=0.0, end_s=0.5, cents=off)
            for note, off in zip(notes, cents, strict=False)
        ),
        missing=missing,
        key_semitones=key_semitones,
        tempo_sd_percent=8.0,
    )


def test_patterns_key_by_key_and_the_clean_keys_at_the_ends():
    def one(key, *cents, **more):
        aim = PatternTarget(tuple(Note.named(key).up(step) for step in (0, 2, 0)))
        return tried(task="pattern", note=key, aim=aim, own=sung(key, *cents, **more))

    found = came(
        "pattern",
        [
            one("C4", 10, -50, 20),
            one("D4", 10, 51, 20),
            one("E4", 10, 20, missing=(2,)),
            one("F4", 0, 0, 0),
            one("G4", 0, 0, 0, key_semitones=-1),
        ],
    )
    assert found["in_tune", "C4"] == 100.0
    assert found["in_tune", "D4"] == pytest.approx(66.67, abs=0.01)
    assert found["in_tune", "E4"] == pytest.approx(66.67, abs=0.01)
    # in another key nothing is in tune
    assert found["in_tune", "G4"] == 0.0
    # 3 + 2 + 2 + 3 + 0 of 15
    assert found["in_tune"] == pytest.approx(66.67, abs=0.01)
    assert (found["missing"], found["added"], found["tempo_sd"]) == (1, 0, 8.0)
    assert (found["low_clean"], found["high_clean"]) == (60, 65)
    # of a key that was sung twice both count: 3 and 2 of 6
    twice = came("pattern", [one("C4", 0, 0, 0), one("C4", 0, 0, 80)])
    assert twice["in_tune", "C4"] == pytest.approx(83.33, abs=0.01)


def spoken(**more):
    return SpeechFigures(**{"phrases": (), "voiced_s": 10.0, "mode_hz": 220.0} | more)


def test_speech_by_its_voiced_time():
    found = came(
        "level",
        [
            tried(
                task="level",
                over_db=4.0,
                aimed_db=3.0,
                own=spoken(over_target_share=0.9, trail_off_db=-2.0),
            ),
            tried(
                task="level",
                over_db=2.0,
                own=spoken(voiced_s=30.0, over_target_share=0.5, words_a_minute=120.0),
            ),
        ],
    )
    # 0.9 over 10 s and 0.5 over 30 s: 24 of 40 s
    assert found["over_target"] == 60.0
    assert (found["over_db"], found["trail_off"], found["rate"]) == (3.0, -2.0, 120.0)
    plain = came("level", [tried(task="level", own=spoken())])
    assert not {"over_target", "rate"} & set(plain)
    # 220 Hz is A3, number 57
    assert (found["pitch"], found["voiced_s"]) == (57.0, 40.0)


def test_breaths_end_so_many_beats_from_their_end():
    aim = PaceTarget(in_s=2.4, out_s=4.8)  # 8 beats of 0.6 s
    breaths = [PacedBreath(ins=(), outs=(), in_s=2.4, out_s=out) for out in (4.8, 4.2, 3.0)]
    found = came("breath", [tried(task="breath", aim=aim, beat_s=0.6, own=one) for one in breaths])
    # 0, −1 and −3 beats
    assert found["from_end"] == pytest.approx(-1.0)
    assert found["within_beat"] == pytest.approx(66.67, abs=0.01)
    assert (found["in_s"], found["out_s"]) == (2.4, 4.2)
    assert came("breath", [tried(task="breath", own=breaths[0])])["from_end"] is None


def test_the_order_in_which_attempts_arrive_does_not_matter():
    tries = [
        tried(place, 3.0 + place, note="CDE"[place] + "4", f0_sd_semitones=0.1 * place)
        for place in range(3)
    ]
    for task in kinds():
        there = {(f.code, f.of, f.value) for f in kind_of(task).in_session(tries)}
        back = {(f.code, f.of, f.value) for f in kind_of(task).in_session(tries[::-1])}
        assert there == back
