"""The demo's stand-ins for a microphone's voice and a sound-level meter; not there outside the demo.

What plays them is named by a setting and loaded when first asked for: the product does not need it.
"""

import io
from collections.abc import Callable
from importlib import import_module
from typing import Any

import numpy as np
import soundfile
from django.conf import settings
from django.http import HttpResponse, JsonResponse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET

from core.errors import CoreError
from core.kinds.registry import measured_task

LOWEST_HZ, HIGHEST_HZ = 60.0, 1000.0
SHORTEST_S, LONGEST_S = 0.5, 90.0


@require_GET
def simulated_voice(request):
    """One attempt at a task as WAV: `task`, `hz`, `seconds`, `seed`, `end_hz` of a glide, `aim`."""
    if not settings.OFFER_SIMULATED_VOICE:
        return HttpResponse(status=404)
    try:
        samples = _performed(request.GET)
    except (ValueError, CoreError):
        return HttpResponse(_("60–1000 Hz, 0.5–90 s."), status=400)
    file = io.BytesIO()
    soundfile.write(file, samples, 16_000, subtype="PCM_16", format="WAV")
    return HttpResponse(file.getvalue(), content_type="audio/wav")


@require_GET
def simulated_meter(request):
    """What the meter beside the simulated voice reads: {"db": …} for `dbfs` and `distance_cm`."""
    if not settings.OFFER_SIMULATED_VOICE:
        return HttpResponse(status=404)
    try:
        level, distance = float(request.GET["dbfs"]), float(request.GET.get("distance_cm", 30))
        if not (-100 <= level <= 0 and 5 <= distance <= 100):
            raise ValueError
    except (KeyError, ValueError):
        return JsonResponse({"error": _("−100–0 dBFS, 5–100 cm.")}, status=400)
    seed = int(abs(level) * 1000)
    found = _stand_in("meter_reading_db")(level, distance_cm=distance, seed=seed)
    return JsonResponse({"db": found})


def _stand_in(name: str) -> Callable[..., Any]:
    return getattr(import_module(settings.STAND_IN), name)


def _performed(asked) -> np.ndarray:
    """Samples at 16 kHz; ValueError outside the limits, core errors for odd tasks and aims."""
    hz, seconds = float(asked.get("hz", 220)), float(asked.get("seconds", 6))
    seed, task = int(asked.get("seed", 0)), measured_task(asked.get("task", "hold"))
    end_hz = float(asked["end_hz"]) if asked.get("end_hz") else None
    usable = LOWEST_HZ <= hz <= HIGHEST_HZ and SHORTEST_S <= seconds <= LONGEST_S
    if not usable or not 0 <= seed < 2**31:
        raise ValueError("hz, seconds or seed")
    if end_hz is not None and not LOWEST_HZ <= end_hz <= HIGHEST_HZ:
        raise ValueError("end_hz")
    return _stand_in("attempt_samples")(
        task, f0_hz=hz, seconds=seconds, seed=seed, end_hz=end_hz, aim=asked.get("aim")
    )
