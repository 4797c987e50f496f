from django.urls import path

from web.clients import views
from web.clients.access import views as access_views
from web.clients.baseline import views as baseline_views

app_name = "clients"
urlpatterns = [
    path("clinic/access/", access_views.access, name="access"),
    path("clients/<uuid:client_id>/why/", access_views.why, name="why"),
    path("clients/new/", views.enrol, name="enrol"),
    path("clients/<uuid:client_id>/screening/", views.screening, name="screening"),
    path("clients/<uuid:client_id>/telephone/", views.telephone, name="telephone"),
    path("clients/<uuid:client_id>/for-home/", views.for_home, name="for_home"),
    path("clients/<uuid:client_id>/for-home/pitch/", views.pitch_at_home, name="pitch_at_home"),
    path("clients/<uuid:client_id>/link/", views.link, name="link"),
    path("clients/<uuid:client_id>/renew/", views.renew, name="renew"),
    path("clients/<uuid:client_id>/revoke/", views.revoke, name="revoke"),
    path("clients/<uuid:client_id>/archive/", views.archive, name="archive"),
    path("clients/<uuid:client_id>/erase/", views.erase, name="erase"),
    path("clients/<uuid:client_id>/baseline/", baseline_views.baseline, name="baseline"),
    path(
        "clients/<uuid:client_id>/baseline/set/", baseline_views.set_baseline, name="set_baseline"
    ),
    path(
        "clients/<uuid:client_id>/baseline/type/",
        baseline_views.type_attempts,
        name="type_attempts",
    ),
    path("clients/<uuid:client_id>/baseline/record/", baseline_views.record, name="record"),
    path(
        "clients/<uuid:client_id>/baseline/take-over/", baseline_views.take_over, name="take_over"
    ),
    path("clients/<uuid:client_id>/baseline/level/", baseline_views.device, name="device"),
    path(
        "clients/<uuid:client_id>/baseline/attempt/<uuid:tried_id>/",
        baseline_views.attempt,
        name="attempt",
    ),
    path(
        "clients/<uuid:client_id>/baseline/strike/<uuid:attempt_id>/",
        baseline_views.strike_out,
        name="strike_out",
    ),
]
