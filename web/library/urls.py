from django.urls import path

from web.library import views

app_name = "library"
urlpatterns = [
    path("library/", views.library, name="library"),
    path("library/schools/", views.school_list, name="schools"),
    path("library/add/", views.add_task, name="add"),
    path("library/tasks/<slug:key>/", views.task_page, name="task"),
    path("library/tasks/<slug:key>/change/", views.change_task, name="change"),
    path("library/tasks/<slug:key>/hide/", views.hide, name="hide"),
]
