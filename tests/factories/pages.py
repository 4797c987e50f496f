"""What `tests/web/test_pages.py` and others make and look at."""

import json

from django.urls import reverse

MOST_QUERIES = 15


def url(name, *args):
    return reverse(name, args=args)


def propose(signed_in, person, **data):
    given = {"school": ["sustained"], "sustained.goal": "own_s"} | data
    return signed_in.post(url("programs:propose", person.pk), given)


def edit(signed_in, person, revision, **change):
    return signed_in.post(
        url("programs:edit", person.pk),
        json.dumps({"revision": revision} | change),
        content_type="application/json",
    )
