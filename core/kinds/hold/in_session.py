"""Figures of holds in a home session."""

from core.kinds.held_in_session import held_in_session

in_session = held_in_session
