"""Reads what a page says about an attempt; anything odd is refused in words."""

import json
import uuid
from typing import Any

from django.utils.translation import gettext as _

from web.measuring.sinks import AttemptOffer, Refused

DEVICE_KEYS = {
    "label",
    "sampleRate",
    "autoGainControl",
    "noiseSuppression",
    "echoCancellation",
    "channelCount",
}
INPUTS = ("microphone", "simulated voice", "none")
MOST_TEXT = 4_000


def read_offer(data: Any) -> AttemptOffer:
    """A decoded JSON object to an Offer; Refused 4400/400 for anything else."""
    try:
        if not isinstance(data, dict):
            raise TypeError("not an object")
        device = data.get("device") or {}
        if not isinstance(device, dict):
            raise TypeError("device")
        elapsed = data.get("elapsed_ms")
        offer = AttemptOffer(
            attempt_id=str(uuid.UUID(str(data["attempt_id"]))),
            step_id=str(data["step_id"])[:64],
            place=int(data.get("place", 0)),
            repetition=int(data.get("repetition", 1)),
            input=data.get("input", "microphone"),
            device={key: device[key] for key in sorted(DEVICE_KEYS & set(device))},
            elapsed_ms=None if elapsed is None else int(elapsed),
            device_time=data.get("device_time"),
        )
        if offer.input not in INPUTS or not 0 <= offer.place < 60:
            raise ValueError("input or place")
        if not 1 <= offer.repetition <= 20 or not 0 <= (offer.elapsed_ms or 0) < 10**10:
            raise ValueError("repetition or elapsed_ms")
        if len(json.dumps(offer.device)) > MOST_TEXT:
            raise ValueError("device")
    except (KeyError, TypeError, ValueError, OverflowError, AttributeError) as error:
        raise Refused(
            4400, 400, "offer_unreadable", _("The page sent something unreadable: reload it.")
        ) from error
    return offer
