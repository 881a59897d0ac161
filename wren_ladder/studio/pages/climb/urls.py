from django.urls import path

from wren_ladder.studio.pages.climb import minutes_views, says_views, step_views, views

urlpatterns = [
    path("steps/<int:pk>/says/", says_views.step_says, name="step-says"),
    path(
        "steps/<int:pk>/says/<int:saying>/delete/",
        says_views.saying_delete,
        name="saying-delete",
    ),
    path(
        "steps/<int:pk>/says/<int:saying>/heard/",
        says_views.saying_heard,
        name="saying-heard",
    ),
    path("plans/<int:pk>/", views.plan_page, name="plan"),
    path("plans/<int:pk>/climb/", views.climb_panel, name="climb-panel"),
    path("plans/<int:pk>/progress/", views.progress, name="progress"),
    path("students/<int:pk>/minutes/", minutes_views.minutes, name="minutes"),
    path("minutes/<int:pk>/delete/", minutes_views.minutes_delete, name="minutes-delete"),
    path("steps/<int:pk>/", step_views.step_page, name="step"),
    path("steps/<int:pk>/log/", step_views.step_log, name="step-log"),
    path("steps/<int:pk>/attempts/", views.attempt_log, name="attempt-log"),
    path("attempts/<int:pk>/edit/", views.attempt_edit, name="attempt-edit"),
    path("attempts/<int:pk>/delete/", views.attempt_delete, name="attempt-delete"),
]
