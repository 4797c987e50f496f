"""What a client wants, on the Bench."""

import pytest
from django.urls import reverse

from tests.conftest import baseline_of
from tests.factories.family_pages import bench
from web.programs.models import Draft

pytestmark = pytest.mark.django_db


def test_what_the_client_wants_chooses_the_schools_and_what_was_left_out_is_shown(
    signed_in, person, clinician
):
    from tests.web.test_conditions import screen

    # strong voice comes by itself only where slowed movement is noted
    screen(person, clinician, conditions=["slowed_movement"])
    baseline_of(person, clinician)
    posted = {"by_wants": "1", "want": ["louder", "carries"], "school": ["release"]}
    assert bench(signed_in, person, **posted).status_code == 302
    program = Draft.objects.get().program
    chosen = [one.school for one in program.schools]
    # rivals never come together: one of the two ways of strong work
    assert len([key for key in chosen if key.startswith("loudness")]) == 1
    assert "release" not in chosen
    page = signed_in.get(reverse("programs:bench", args=[person.pk])).content.decode()
    assert "Left out" in page
    assert "both cannot be: how long a strong hold is" in page
    assert "is chosen: the voice" in page
