from django.urls import path

from web.papers.export import calendar_views
from web.papers.export import views as file_views
from web.papers.paper_log import views as sheet_views
from web.papers.print import views
from web.papers.reports import views as report_views

app_name = "papers"
urlpatterns = [
    path("clients/<uuid:client_id>/print/", views.papers, name="papers"),
    path("clients/<uuid:client_id>/print/handout/", views.handout, name="handout"),
    path("clients/<uuid:client_id>/print/sheet/", views.sheet, name="sheet"),
    path("clients/<uuid:client_id>/print/words/", views.words, name="words"),
    path("clients/<uuid:client_id>/report/<slug:sort>/", report_views.report, name="report"),
    path("clients/<uuid:client_id>/calendar.ics", calendar_views.calendar, name="calendar"),
    path(
        "clients/<uuid:client_id>/music/<uuid:step_id>.mid",
        file_views.music,
        {"kind": "mid"},
        name="midi",
    ),
    path(
        "clients/<uuid:client_id>/music/<uuid:step_id>.musicxml",
        file_views.music,
        {"kind": "musicxml"},
        name="music_xml",
    ),
    path(
        "clients/<uuid:client_id>/music/<uuid:step_id>/take-in/",
        file_views.take_music,
        name="take_music",
    ),
    path("clients/<uuid:client_id>/fhir.json", file_views.hospital, name="hospital"),
    path("c/<uuid:link_id>/calendar.ics", calendar_views.own_calendar, name="own_calendar"),
    path("clients/<uuid:client_id>/paper-log/", sheet_views.sheet_log, name="sheet_log"),
    path("clients/<uuid:client_id>/paper-log/check/", sheet_views.check, name="sheet_check"),
    path("clients/<uuid:client_id>/paper-log/stop/", sheet_views.stop, name="sheet_stop"),
    path("clients/<uuid:client_id>/paper-log/file/", sheet_views.sheet_file, name="sheet_file"),
    path(
        "clients/<uuid:client_id>/paper-log/log.csv", sheet_views.sheet_sample, name="sheet_sample"
    ),
]
