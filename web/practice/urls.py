from django.urls import path

from web.practice.access import views as access
from web.practice.player import views as player
from web.practice.recordings import views as recordings
from web.practice.sessions import views as sessions
from web.practice.today import views as today

app_name = "practice"
urlpatterns = [
    path("c/<uuid:link_id>/", access.enter, name="enter"),
    path("c/<uuid:link_id>/today/", today.today, name="today"),
    path("c/<uuid:link_id>/practice/", player.practice, name="practice"),
    path("c/<uuid:link_id>/home-sessions/", player.open_home_session, name="open_session"),
    path("c/<uuid:link_id>/ticket/", player.renew_ticket, name="renew_ticket"),
    path("c/<uuid:link_id>/finished/<uuid:session_id>/", sessions.finished, name="finished"),
    path("c/<uuid:link_id>/recordings/", recordings.hearing, name="hearing"),
    path("c/<uuid:link_id>/later/", today.later, name="later"),
    path("c/<uuid:link_id>/voice/", today.usual_voice, name="usual_voice"),
    path("c/<uuid:link_id>/leave/", access.leave, name="leave"),
    path("entries/<uuid:entry_id>/", player.entry, name="entry"),
]
