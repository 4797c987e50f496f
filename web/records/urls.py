from django.urls import path

from web.records import views

app_name = "records"
urlpatterns = [
    path("clients/<uuid:client_id>/record.zip", views.record, name="record"),
    path("records/", views.records, name="records"),
    path("records/clinic.zip", views.whole_clinic, name="whole_clinic"),
    path("records/progress/<uuid:work_id>/", views.progress, name="progress"),
    path("records/take-in/", views.take_in_archive, name="take_in"),
]
