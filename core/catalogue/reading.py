"""Reading passages with their word counts, written for Harrow Quay."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Passage:
    """A text to read aloud; `words` are its words."""

    name: str
    text: str

    @property
    def words(self) -> int:
        return len(self.text.split())


HARBOUR_MORNING = Passage(
    "Harbour morning",
    "The first ferry leaves Harrow Quay at ten past six. On a still morning you hear the ropes "
    "before you see the boat. The cook carries soup on board in two tall pots, and the deck is wet "
    "from the night. When the tide turns, the bell rings once, and all who wait on the stones walk "
    "down to the water.",
)
