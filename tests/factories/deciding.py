"""What `tests/web/test_deciding.py` and others make and look at."""

from django.urls import reverse


def page_of(client, person):
    return client.get(reverse("review:client", args=[person.pk])).content.decode()


def climb_key(version):
    step = version.program.soft_holds
    warm_up = version.program.steps[0]
    return "|".join(("climb", warm_up.step_id, step.step_id))


def send(client, person, key, *, after=1, accept="yes", **more):
    asked = {"key": key, "after": after, "accept": accept, **more}
    return client.post(reverse("review:decide", args=[person.pk]), asked)
