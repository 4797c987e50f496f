from django.urls import path

from web.practice.player import views
from web.practice.recordings import views as hearing_views

app_name = "practice"
urlpatterns = [
    path("c/<uuid:link_id>/", views.enter, name="enter"),
    path("c/<uuid:link_id>/today/", views.today, name="today"),
    path("c/<uuid:link_id>/practice/", views.practice, name="practice"),
    path("c/<uuid:link_id>/home-sessions/", views.open_home_session, name="open_session"),
    path("c/<uuid:link_id>/ticket/", views.renew_ticket, name="renew_ticket"),
    path("c/<uuid:link_id>/finished/<uuid:session_id>/", views.finished, name="finished"),
    path("c/<uuid:link_id>/heard/", hearing_views.hearing, name="hearing"),
    path("c/<uuid:link_id>/later/", views.later, name="later"),
    path("c/<uuid:link_id>/voice/", views.usual_voice, name="usual_voice"),
    path("c/<uuid:link_id>/leave/", views.leave, name="leave"),
    path("entries/<uuid:entry_id>/", views.entry, name="entry"),
]
