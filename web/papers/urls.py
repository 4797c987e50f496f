from django.urls import path

from web.papers import sheet_views

app_name = "papers"
urlpatterns = [
    path("clients/<uuid:client_id>/sheet/", sheet_views.sheet_log, name="sheet_log"),
    path("clients/<uuid:client_id>/sheet/check/", sheet_views.check, name="sheet_check"),
    path("clients/<uuid:client_id>/sheet/stop/", sheet_views.stop, name="sheet_stop"),
    path("clients/<uuid:client_id>/sheet/file/", sheet_views.sheet_file, name="sheet_file"),
    path("clients/<uuid:client_id>/sheet/log.csv", sheet_views.sheet_sample, name="sheet_sample"),
]
