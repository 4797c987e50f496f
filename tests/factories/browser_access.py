"""What `tests/browser/test_families.py` and others make and look at."""

from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program
from web.clients.usecases.link import make_link


def access_for(person, clinician, *schools):
    chosen = tuple(Chosen(school=key) for key in schools)
    version = activate_program(person, clinician, schools=chosen)
    return make_link(person, by=clinician, now=NOW, pin=PIN)[0], version
