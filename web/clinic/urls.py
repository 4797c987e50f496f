from django.urls import path

from web.clinic import held_forms, views

app_name = "clinic"
urlpatterns = [
    path("clinic/", views.clinic_page, name="clinic"),
    path("clinic/invite/", views.invite, name="invite"),
    path("clinic/staff/<uuid:membership_id>/", views.set_staff, name="set_staff"),
    path("clinic/deputy/<uuid:membership_id>/", views.set_deputy, name="set_deputy"),
    path("held-form/", held_forms.held_form, name="held_form"),
    path("invitation/<str:token>/", views.accept_invitation, name="accept_invitation"),
]
