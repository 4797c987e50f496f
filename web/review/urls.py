from django.urls import path
from django.views.generic import RedirectView

from web.review import views
from web.review.deciding import rule_number_views
from web.review.recordings import remark_views
from web.review.recordings import views as recording_views
from web.review.results import own_views
from web.review.results import views as results_views
from web.review.visits import care_views, note_views
from web.review.visits import views as visit_views

app_name = "review"
urlpatterns = [
    path("c/<uuid:link_id>/progress/", own_views.reeds, name="own_reeds"),
    path("", RedirectView.as_view(pattern_name="review:rounds"), name="home"),
    path("rounds/", views.rounds, name="rounds"),
    path("clients/<uuid:client_id>/", views.client, name="client"),
    path("clients/<uuid:client_id>/results/", results_views.results, name="results"),
    path("clients/<uuid:client_id>/results.csv", results_views.results_table, name="results_table"),
    path(
        "clients/<uuid:client_id>/sessions/<uuid:session_id>/",
        results_views.home_session,
        name="home_session",
    ),
    path(
        "clients/<uuid:client_id>/sessions/<uuid:session_id>/remark/",
        remark_views.on_session,
        name="remark_session",
    ),
    path(
        "clients/<uuid:client_id>/held/<uuid:attempt_id>/remark/",
        remark_views.on_attempt,
        name="remark_attempt",
    ),
    path("clients/<uuid:client_id>/decide/", views.decide_proposal, name="decide"),
    path("clients/<uuid:client_id>/done/<uuid:decision_id>/", views.done, name="done"),
    path("rules/", rule_number_views.clinic_numbers, name="clinic_numbers"),
    path("rules/try/", rule_number_views.try_number, name="try_number"),
    path("rules/bring/", rule_number_views.bring, name="bring"),
    path(
        "clients/<uuid:client_id>/rules/", rule_number_views.client_numbers, name="client_numbers"
    ),
    path("clients/<uuid:client_id>/visit/", care_views.visit, name="visit"),
    path("clients/<uuid:client_id>/in-visit/", visit_views.in_visit, name="in_visit"),
    path("clients/<uuid:client_id>/in-visit/tried/", visit_views.tried, name="visit_tried"),
    path("clients/<uuid:client_id>/in-visit/taught/", visit_views.teach, name="teach"),
    path(
        "clients/<uuid:client_id>/in-visit/recorded/", visit_views.record_visit, name="record_visit"
    ),
    path("clients/<uuid:client_id>/in-visit/note/", note_views.note, name="note"),
    path(
        "clients/<uuid:client_id>/in-visit/note/<uuid:note_id>/addendum/",
        note_views.addendum,
        name="addendum",
    ),
    path("clients/<uuid:client_id>/put-off/", care_views.put_off, name="put_off"),
    path("clients/<uuid:client_id>/hand-over/", care_views.hand_over, name="hand_over"),
    path("clients/<uuid:client_id>/note-read/", care_views.read_note, name="read_note"),
    path("clients/<uuid:client_id>/clear-stop/", views.clear_stop, name="clear_stop"),
    path("clients/<uuid:client_id>/look-at/", views.look_at, name="look_at"),
    path("clients/<uuid:client_id>/held/<uuid:attempt_id>/", views.attempt, name="attempt"),
    path("clients/<uuid:client_id>/held/<uuid:attempt_id>/correct/", views.correct, name="correct"),
    path("clients/<uuid:client_id>/heard/", recording_views.hearing, name="hearing"),
    path(
        "clients/<uuid:client_id>/held/<uuid:attempt_id>/sound/",
        recording_views.sound,
        name="sound",
    ),
    path("clients/<uuid:client_id>/home-levels/", views.home_levels, name="home_levels"),
]
