"""What `tests/web/test_families.py` and others make and look at."""

from django.urls import reverse


def bench(signed_in, person, **posted):
    return signed_in.post(reverse("programs:propose", args=[person.pk]), posted)
