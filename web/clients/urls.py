from django.urls import path

from web.clients import views

app_name = "clients"
urlpatterns = [
    path("clients/new/", views.enrol, name="enrol"),
    path("clients/<uuid:client_id>/screening/", views.screening, name="screening"),
    path("clients/<uuid:client_id>/link/", views.link, name="link"),
    path("clients/<uuid:client_id>/revoke/", views.revoke, name="revoke"),
    path("clients/<uuid:client_id>/archive/", views.archive, name="archive"),
    path("clients/<uuid:client_id>/erase/", views.erase, name="erase"),
    path("clients/<uuid:client_id>/baseline/", views.baseline, name="baseline"),
    path("clients/<uuid:client_id>/baseline/set/", views.set_baseline, name="set_baseline"),
    path("clients/<uuid:client_id>/baseline/type/", views.type_attempts, name="type_attempts"),
    path("clients/<uuid:client_id>/baseline/record/", views.record, name="record"),
    path(
        "clients/<uuid:client_id>/baseline/strike/<uuid:attempt_id>/",
        views.strike_out,
        name="strike_out",
    ),
]
