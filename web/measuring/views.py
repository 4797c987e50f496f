"""PUT /attempts/<uuid>/: an attempt sent whole, after the hold. The ticket is the only key."""

import hashlib
import json
import logging
from urllib.parse import unquote

from django.db import close_old_connections, connection
from django.http import JsonResponse
from django.utils import translation
from django.utils.translation import gettext as _
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_http_methods

from core.errors import SoundError
from core.formats.json_input import NotPlain, read_json
from core.sound.reading import MAX_BYTES, read_sound
from core.sound.recording import Recording
from web.clinic import clock
from web.clinic.records import Unreadable
from web.design.speaking import spoken
from web.measuring.figuring import measured
from web.measuring.models import Taken
from web.measuring.offers import read_offer
from web.measuring.sinks import AttemptTaken, Permit, Refused
from web.measuring.tickets import Ticket, TicketRefused
from web.measuring.usecases.open_attempts import this_process
from web.measuring.words import attempt_words, sound_words

log = logging.getLogger(__name__)
STATUS = {"kept": 201, "again": 200, "differs": 409, "set_aside": 202}
LONGEST_STOPWATCH_S = 120.0
LONGEST_BY_THE_CLOCK_S = 3600.0
MOST_COUNTED = 120


@csrf_exempt
@require_http_methods(["PUT"])
def receive_attempt(request, attempt_id, ends):
    """Body: audio with the offer in the X-Attempt header (percent-encoded JSON), or JSON with
    `seconds` of a stopwatch or `interrupted`. 201 kept, 200 kept before, 202 set aside, 409 differs."""
    try:
        ticket = Ticket.read(request.headers.get("X-Ticket", ""))
        end = ends[ticket.purpose]
        translation.activate(spoken(ticket.language))
        is_json = request.content_type == "application/json"
        said = _decoded(request.body if is_json else request.headers.get("X-Attempt", ""))
        offer = read_offer(said)
        if offer.attempt_id != str(attempt_id):
            raise Refused(4400, 400, "offer_unreadable", _("The address and the body differ."))
        permit = end.permit(ticket, offer)
        _give_back_the_connection()
        caught = _timed(said, permit) if is_json else _measured(request, permit)
        kept = end.keep(ticket, offer, permit, caught, clock.now())
    except (TicketRefused, KeyError):
        words = _("This page has been open too long. The hold is kept here: open your link again.")
        return refusal(401, "ticket_stale", words)
    except Refused as refused:
        return refusal(refused.status, refused.code, refused.words)
    except Unreadable as bad:
        log.error("attempt %s: %s", attempt_id, bad)
        words = _(
            "What was prescribed cannot be read just now. The hold is kept here: call your clinic."
        )
        return refusal(503, "unreadable", words)
    except SoundError as error:
        status = 413 if error.code in ("sound_too_large", "sound_too_long") else 422
        return refusal(status, error.code, sound_words(error))
    figures = caught.figures.as_data(contour=False) if caught.figures else None
    answer = {"status": kept.status, "attempt_id": kept.attempt_id, "figures": figures}
    answer["words"] = attempt_words(caught.figures, permit)
    answer["rests"] = permit.rests
    return JsonResponse(answer, status=STATUS[kept.status])


def _give_back_the_connection() -> None:
    """Measuring takes a while: meanwhile the connection serves others."""
    if not connection.in_atomic_block:
        close_old_connections()


def refusal(status: int, code: str, words: str) -> JsonResponse:
    return JsonResponse({"error": {"code": code, "message": words}}, status=status)


def _decoded(body: bytes | str):
    try:
        return read_json(unquote(body) if isinstance(body, str) else body)
    except NotPlain:
        return None


def _measured(request, permit: Permit) -> AttemptTaken:
    if int(request.headers.get("Content-Length") or 0) > MAX_BYTES:
        raise SoundError("sound_too_large")
    if permit.task is None:
        words = _("This step is done by the clock; no sound is taken.")
        raise Refused(4403, 403, "step_not_measured", words)
    sound = read_sound(request.body)
    recording = Recording.of(sound.samples, sound.rate_hz)
    return AttemptTaken(
        taken=Taken.WAV,
        sha256=hashlib.sha256(recording.pcm).hexdigest(),
        figures=measured(
            sound,
            permit.task,
            target=permit.target,
            a4_hz=permit.a4_hz,
            streams=this_process.streams,
        ),
        sound=recording if permit.heard else None,
    )


def _timed(said: dict, permit: Permit) -> AttemptTaken:
    longest = LONGEST_STOPWATCH_S if permit.task else LONGEST_BY_THE_CLOCK_S
    count = said.get("count")
    counted = isinstance(count, int) and not isinstance(count, bool) and permit.task is None
    if count is not None and not (counted and 0 <= count <= MOST_COUNTED):
        words = _("A count lies between 0 and 120. The attempt is still on this page: correct it.")
        raise Refused(4400, 422, "count_out_of_limits", words)
    interrupted = said.get("interrupted") is True
    came = said.get("seconds")
    number = isinstance(came, int | float) and not isinstance(came, bool)
    seconds = float(came) if number and came is not None else 0.0
    if not interrupted and not 0 < seconds <= longest:
        words = _(
            "Seconds lie between 0.1 and %(most)g. The attempt is still on this page: correct it."
        )
        raise Refused(4400, 422, "seconds_out_of_limits", words % {"most": longest})
    return AttemptTaken(
        taken=Taken.STOPWATCH,
        sha256=hashlib.sha256(json.dumps(said, sort_keys=True).encode()).hexdigest(),
        seconds=round(seconds, 2) if 0 < seconds <= longest else None,
        count=count,
        interrupted=interrupted,
    )
