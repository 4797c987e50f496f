from django.urls import path

from web.library import material_views, views

app_name = "library"
urlpatterns = [
    path("library/", views.library, name="library"),
    path("library/schools/", views.school_list, name="schools"),
    path("library/materials/", material_views.materials, name="materials"),
    path(
        "library/materials/<uuid:material_id>/take-away/",
        material_views.take_material_away,
        name="take_away",
    ),
    path("library/add/", views.add_task, name="add"),
    path("library/tasks/<slug:key>/", views.task_page, name="task"),
    path("library/tasks/<slug:key>/change/", views.change_task, name="change"),
    path("library/tasks/<slug:key>/hide/", views.hide, name="hide"),
]
