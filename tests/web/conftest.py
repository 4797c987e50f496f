"""Fixtures of several web tests."""

from tests.factories.access import doors  # noqa: F401
from tests.factories.uploads import sung  # noqa: F401
