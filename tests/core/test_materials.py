"""What is read, said or answered: enough of it, graded, and shown where a task needs it."""

import re

import pytest

from core.catalogue.materials import sort_named, sort_of, sorts, turn_of
from core.catalogue.tasks import shipped_tasks
from core.catalogue.tunes import tunes


def turns(sort):
    return sorts()[sort].turns


@pytest.mark.parametrize(
    ("sort", "at_least"), [("passage", 12), ("twisters", 10), ("pairs", 3), ("counting", 3)]
)
def test_there_are_enough_turns(sort, at_least):
    assert len(turns(sort)) >= at_least


@pytest.mark.parametrize(("sort", "at_least"), [("phrases", 60), ("questions", 40)])
def test_there_are_enough_lines_and_none_twice(sort, at_least):
    lines = [line for turn in turns(sort) for line in turn.lines]
    assert len(set(lines)) == len(lines) >= at_least


@pytest.mark.parametrize("sort", ["passage", "phrases", "questions", "twisters"])
def test_each_is_graded_in_three_levels_from_short_to_long(sort):
    means = []
    for level in (1, 2, 3):
        words = [turn.words for turn in turns(sort) if turn.level == level]
        means.append(sum(words) / len(words))
    assert means == sorted(means)


def test_words_are_counted():
    (soup,) = [turn for turn in turns("passage") if turn.name == "Soup"]
    # The soup is hot (4). The cook fills two bowls (5). One is for you and one is for the man at the
    # bell (13). Eat it while the boat is still in (8).
    assert soup.words == 30


def test_questions_ask():
    for turn in turns("questions"):
        asks = [line for line in turn.lines if line.endswith("?") or turn.name == "Describe"]
        assert len(asks) == len(turn.lines)


def test_every_named_task_is_there_and_all_speech_has_words():
    named = {task for sort in sorts().values() for task in sort.tasks}
    assert named <= set(shipped_tasks())
    spoken = {key for key, task in shipped_tasks().items() if task.kind == "level"}
    assert spoken <= named


def test_tunes_are_heard_note_by_note_and_one_fits_a_range_of_five_notes():
    for tune in tunes():
        neighbours = zip(tune.degrees, tune.degrees[1:], strict=False)
        assert all(one != other for one, other in neighbours)
        assert tune.degrees[-1] == 1
    assert len(tunes()) >= 5
    assert tunes()[0].span <= 5


def test_nothing_is_of_anywhere_else():
    said = " ".join(line for sort in sorts().values() for turn in sort.turns for line in turn.lines)
    # no brand, no address of the web, no dialling code
    assert not re.search(r"www|http|@|\+\d", said)


def test_another_turn_each_time_and_nothing_hard_on_the_first_rung():
    first = [turn_of(sort_of("own_phrases"), number=n, rung=0.0, seconds=40) for n in range(4)]
    assert len({turn.name for turn in first}) == 4
    assert {turn.level for turn in first} == {1}
    last = {
        turn_of(sort_of("own_phrases"), number=n, rung=1.0, seconds=40).level for n in range(12)
    }
    assert last == {1, 2, 3}
    assert turn_of(sort_of("own_phrases"), number=5, rung=0.0, seconds=40) == first[1]


def test_a_text_fits_the_seconds_of_the_reading():
    short = [turn_of(sort_of("loud_reading"), number=n, rung=0.0, seconds=12) for n in range(4)]
    long = [turn_of(sort_of("loud_reading"), number=n, rung=0.0, seconds=35) for n in range(4)]
    assert max(turn.words for turn in short) < 45
    assert min(turn.words for turn in long) > 60


def test_the_clients_own_phrases_come_first_five_at_a_time():
    own = [f"Phrase {n}." for n in range(12)]
    sort = sort_of("own_phrases")
    said = [turn_of(sort, number=n, rung=0.0, seconds=40, own=own).lines for n in range(4)]
    assert said == [tuple(own[:5]), tuple(own[5:10]), tuple(own[10:]), tuple(own[:5])]
    reading = sort_of("loud_reading")
    assert turn_of(reading, number=0, rung=0.0, seconds=30, own=own).lines != tuple(own[:5])


def test_a_task_without_words_has_none_unless_a_material_is_named():
    assert sort_of("straw_air") is None
    assert sort_named("straw_air") == ("", None)
    assert sort_named("straw_air", "questions") == ("questions", sorts()["questions"])
