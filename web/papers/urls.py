from django.urls import path

from web.papers import calendar_views, sheet_views, views

app_name = "papers"
urlpatterns = [
    path("clients/<uuid:client_id>/papers/", views.papers, name="papers"),
    path("clients/<uuid:client_id>/papers/handout/", views.handout, name="handout"),
    path("clients/<uuid:client_id>/papers/sheet/", views.sheet, name="sheet"),
    path("clients/<uuid:client_id>/calendar.ics", calendar_views.calendar, name="calendar"),
    path("c/<uuid:link_id>/calendar.ics", calendar_views.own_calendar, name="own_calendar"),
    path("clients/<uuid:client_id>/sheet/", sheet_views.sheet_log, name="sheet_log"),
    path("clients/<uuid:client_id>/sheet/check/", sheet_views.check, name="sheet_check"),
    path("clients/<uuid:client_id>/sheet/stop/", sheet_views.stop, name="sheet_stop"),
    path("clients/<uuid:client_id>/sheet/file/", sheet_views.sheet_file, name="sheet_file"),
    path("clients/<uuid:client_id>/sheet/log.csv", sheet_views.sheet_sample, name="sheet_sample"),
]
