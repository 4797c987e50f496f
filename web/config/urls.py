from django.urls import include, path

from web.clinic import views as clinic
from web.config.attempt_sinks import ENDS
from web.design.views import not_found, service_worker, words
from web.measuring.stand_ins import simulated_meter, simulated_voice
from web.measuring.views import receive_attempt

handler400 = "web.design.views.bad_request"
handler403 = "web.design.views.forbidden"
handler404 = "web.design.views.not_found"
handler500 = "web.design.views.server_error"

urlpatterns = [
    path("healthz", clinic.healthz, name="healthz"),
    path("readyz", clinic.readyz, name="readyz"),
    path("service-worker.js", service_worker, name="service_worker"),
    path("words.js", words, name="words"),
    # addresses are the lead's to invite: nobody adds or swaps one by themselves
    path("accounts/email/", not_found, name="account_email"),
    path("accounts/", include("allauth.urls")),
    path("attempts/<uuid:attempt_id>/", receive_attempt, {"ends": ENDS}, name="attempt"),
    path("stand-in/voice.wav", simulated_voice, name="simulated_voice"),
    path("stand-in/meter.json", simulated_meter, name="simulated_meter"),
    path("", include("web.clinic.urls")),
    path("", include("web.clients.urls")),
    path("", include("web.library.urls")),
    path("", include("web.programs.urls")),
    path("", include("web.practice.urls")),
    path("", include("web.review.urls")),
    path("", include("web.papers.urls")),
    path("", include("web.records.urls")),
]
