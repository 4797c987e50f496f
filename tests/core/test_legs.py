"""The stretches of one attempt, as they are drawn: worked out by hand."""

from dataclasses import replace

import pytest

from core.catalogue.town import town
from core.errors import PlanError
from core.kinds.level.aim import LevelTarget
from core.kinds.live import LiveMeasurement
from core.kinds.strength import band_of
from core.notes.note import Note
from core.program.targets import (
    Blow,
    Counted,
    GlidePath,
    Holds,
    HoldTarget,
    Join,
    Pace,
    Pattern,
    Speech,
    Timed,
)
from core.reason import written
from lab.simulate.tasks import speak
from tests.core.fitted import proposed, step

WHY = written("for a test")
C4, G4 = Note.named("C4"), Note.named("G4")


def legs(target, place=0):
    return [
        (leg.doing.value, round(leg.seconds, 3), *(n.name for n in (leg.start, leg.end) if n))
        for leg in target.legs(place)
    ]


def test_a_hold_is_one_note_and_each_place_has_its_own():
    holds = Holds(holds=tuple(HoldTarget(note=n, seconds=6.5, because=WHY) for n in (C4, G4)))
    assert legs(holds) == [("voice", 6.5, "C4", "C4")]
    assert legs(holds, 1) == [("voice", 6.5, "G4", "G4")]
    assert not holds.swells


def test_rises_there_and_back_share_the_seconds():
    once = GlidePath(start=C4, end=G4, seconds=6, because=WHY)
    assert legs(once) == [("voice", 6, "C4", "G4")]
    thrice = GlidePath(start=C4, end=G4, seconds=9, because=WHY, back=True, times=3)
    assert legs(thrice) == [("voice", 1.5, "C4", "G4"), ("voice", 1.5, "G4", "C4")] * 3


def test_air_and_a_hiss_that_turns():
    assert legs(Blow(seconds=12, because=WHY)) == [("air", 12)]
    assert Blow(seconds=12, because=WHY, swell=True).swells
    join = Join(hiss_s=2, buzz_s=4, note=C4, because=WHY)
    assert legs(join) == [("air", 2), ("voice", 4, "C4", "C4")]


def test_a_pattern_is_a_note_a_beat_in_each_key():
    # 1 2 1 at 120 beats/min: half a second a note; from D4 it is D E D.
    keys = (C4, Note.named("D4"))
    pattern = Pattern(degrees=(1, 2, 1), keys=keys, tempo_bpm=120, because=WHY)
    assert pattern.beat_s == 0.5
    assert [leg[2] for leg in legs(pattern, 1)] == ["D4", "E4", "D4"]
    assert {leg[1] for leg in legs(pattern)} == {0.5}


def test_a_breath_at_100_beats_is_2_4_s_in_and_7_2_s_out():
    pace = Pace(beats_in=4, beats_out=12, tempo_bpm=100, breaths=3, because=WHY)
    assert legs(pace, 2) == [("breath_in", 2.4), ("breath_out", 7.2)]
    assert pace.beat_s == pytest.approx(0.6)


def test_body_work_has_a_stretch_a_side_and_what_is_counted_or_said_none():
    assert legs(Timed(seconds_a_side=30, sides=2, because=WHY)) == [("movement", 30)] * 2
    counted = Counted(count=8, unit="pairs", seconds_each=2, tempo_bpm=60, because=WHY)
    assert legs(counted) == []
    assert counted.beat_s == 1
    assert legs(Speech(seconds=60, because=WHY)) == []


def test_an_entry_is_counted_in_for_eight_beats_with_the_breath_on_seven():
    # at 80 beats/min a beat is 0.75 s: six counted empty, two for the breath, then the sound
    entry = Counted(count=6, unit="entries", seconds_each=9, tempo_bpm=80, breath_on=7, because=WHY)
    assert legs(entry)[:2] == [("count", 4.5), ("breath_in", 1.5)]
    assert legs(entry)[2][:2] == ("voice", 3.0)
    with pytest.raises(PlanError):
        replace(entry, breath_on=9)


def test_the_task_asks_for_the_breath_on_seven():
    entry = step(proposed("breath_support"), "entry_breath")
    assert (entry.target.breath_on, entry.target.tempo_bpm) == (7, 80)


def test_the_band_lies_over_usual_talk_on_the_same_device():
    # 6 dB over a talk of −38 dBFS; shouted is 10 dB more (the limit of work.md's strong work, by default).
    band = band_of(LevelTarget(reference_db=-38, over_db=6))
    assert (band.talk_db, band.strong_db) == (-38, -32)
    assert band.shouted_db > band.strong_db
    assert band_of(LevelTarget(reference_db=-38)) is None
    assert band_of(None) is None


def test_phrases_that_were_said_are_counted_as_they_end():
    talk = speak(phrases=4, level_db=-30, seed=3).samples
    live = LiveMeasurement(16_000, "level")
    counts = [live.feed(talk[at : at + 1600]).said for at in range(0, len(talk), 1600)]
    assert counts == sorted(counts)
    assert counts[0] == 0
    assert counts[-1] in (3, 4)
    held = LiveMeasurement(16_000, "hold")
    assert {held.feed(talk[at : at + 1600]).said for at in range(0, 48_000, 1600)} == {0}


def test_every_place_of_the_town_stands_at_a_way():
    here = town()
    stops = {point for way in here.ways for point in way.through}
    assert {place.at for place in here.places.values()} <= stops
    assert len(here.places) == 12
