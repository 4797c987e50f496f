"""What `tests/web/test_library.py` and others make and look at."""

from django.urls import reverse


def page(client, name="library", key=None, **query):
    return client.get(reverse(f"library:{name}", args=[key] if key else []), query)


def adapted(signed_in, key="straw_air", **changes):
    form = page(signed_in, "change", key).context["form"]
    data = {name: value for name, value in form.initial.items() if value not in (False, None)}
    return signed_in.post(reverse("library:change", args=[key]), data | changes)
