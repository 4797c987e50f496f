"""What `tests/web/test_in_visit.py` and others make and look at."""

from tests.factories.pages import url


def visit(signed_in, person) -> str:
    answer = signed_in.get(url("review:in_visit", person.pk))
    assert answer.status_code == 200
    return answer.content.decode()


def taught(signed_in, person, taught_step, **changes):
    sent = {
        "step": taught_step.step_id,
        "cue": "let the jaw hang",
        "cue_level": "shown",
        "response": "partly",
        "shown_back": "yes",
        "fade": "every second time from next week",
    } | changes
    return signed_in.post(url("review:teach", person.pk), sent)
