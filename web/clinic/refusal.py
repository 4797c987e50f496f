"""What a use-case says when it does not write."""


class UsecaseRefused(Exception):
    """A write that was not done; `words` say why and what to do."""

    def __init__(self, words: str) -> None:
        self.words = words
        super().__init__(words)
