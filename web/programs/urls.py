from django.urls import path

from web.programs import starting_points as starting
from web.programs import versions, views

app_name = "programs"
urlpatterns = [
    path("clients/<uuid:client_id>/program/", views.bench, name="bench"),
    path("clients/<uuid:client_id>/program/propose/", views.propose, name="propose"),
    path("clients/<uuid:client_id>/program/tried/", views.tried, name="tried"),
    path("clients/<uuid:client_id>/program/edit/", views.edit, name="edit"),
    path("clients/<uuid:client_id>/program/program.json", views.export, name="export"),
    path("clients/<uuid:client_id>/program/take-in/", views.take_in, name="take_in"),
    path("clients/<uuid:client_id>/versions/", versions.versions, name="versions"),
    path(
        "clients/<uuid:client_id>/versions/<uuid:version_id>/restore/",
        versions.restore,
        name="restore",
    ),
    path("clients/<uuid:client_id>/program/compare/", starting.compare, name="compare"),
    path("clients/<uuid:client_id>/program/from-client/", starting.from_client, name="from_client"),
    path(
        "clients/<uuid:client_id>/program/from-template/",
        starting.from_template,
        name="from_template",
    ),
    path(
        "clients/<uuid:client_id>/program/save-template/",
        starting.save_template,
        name="save_template",
    ),
    path(
        "clients/<uuid:client_id>/program/drop-template/",
        starting.drop_template,
        name="drop_template",
    ),
    path("clients/<uuid:client_id>/program/activate/", views.activate, name="activate"),
]
