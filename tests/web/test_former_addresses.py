"""An address of a former release leads to today's, whatever was sent to it."""

import uuid

import pytest

from tests.factories.pages import propose, url
from web.programs.models import Draft

pytestmark = pytest.mark.django_db
ID = "0b9d1c4e-7f25-4a86-9d3f-5a1d2f7e8c90"


@pytest.mark.parametrize(
    ("former", "now"),
    [
        (f"/clients/{ID}/bench/", f"/clients/{ID}/program/"),
        (f"/clients/{ID}/bench/program.json", f"/clients/{ID}/program/program.json"),
        (f"/clients/{ID}/bench/?step=a%20b", f"/clients/{ID}/program/?step=a%20b"),
        # as it is printed as a code on every practice sheet given out before
        (
            f"/clients/{ID}/sheet/?version=2&routine=practice&first=2026-06-15",
            f"/clients/{ID}/paper-log/?version=2&routine=practice&first=2026-06-15",
        ),
        (f"/clients/{ID}/papers/handout/", f"/clients/{ID}/print/handout/"),
        (f"/c/{ID}/reeds/", f"/c/{ID}/progress/"),
        (f"/c/{ID}/heard/", f"/c/{ID}/recordings/"),
    ],
)
def test_a_former_address_leads_on(client, former, now):
    answer = client.get(former)
    assert (answer.status_code, answer["Location"]) == (308, now)


def test_a_form_of_an_open_page_is_sent_on_with_its_method_and_body(signed_in, person, version):
    former = url("programs:propose", person.pk).replace("/program/", "/bench/")
    before = Draft.objects.get().revision
    answer = signed_in.post(
        former, {"school": ["sustained"], "sustained.goal": "own_s"}, follow=True
    )
    assert answer.redirect_chain[0] == (url("programs:propose", person.pk), 308)
    assert Draft.objects.get().revision == before + 1
    assert propose(signed_in, person).status_code == 302


def test_what_only_looks_like_one_is_not_redirected(client):
    for path in (
        "/clients/bench/",
        f"/library/{uuid.uuid4()}/bench/",
        f"//evil.example/{ID}/bench/",
    ):
        assert client.get(path).status_code != 308
