"""Raised by a use-case that refuses to write."""


class UsecaseRefused(Exception):
    """A write that was not done; `words` say why and what to do."""

    def __init__(self, words: str) -> None:
        self.words = words
        super().__init__(words)
