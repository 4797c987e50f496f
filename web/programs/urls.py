from django.urls import path

from web.programs import views

app_name = "programs"
urlpatterns = [
    path("clients/<uuid:client_id>/bench/", views.bench, name="bench"),
    path("clients/<uuid:client_id>/bench/propose/", views.propose, name="propose"),
    path("clients/<uuid:client_id>/bench/tried/", views.tried, name="tried"),
    path("clients/<uuid:client_id>/bench/edit/", views.edit, name="edit"),
    path("clients/<uuid:client_id>/bench/program.json", views.export, name="export"),
    path("clients/<uuid:client_id>/bench/take-in/", views.take_in, name="take_in"),
    path("clients/<uuid:client_id>/bench/activate/", views.activate, name="activate"),
]
