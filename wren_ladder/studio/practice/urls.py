from django.urls import path

from wren_ladder.studio.practice import views

urlpatterns = [
    path("plans/<int:pk>/", views.plan_page, name="plan"),
    path("plans/<int:pk>/climb/", views.climb_panel, name="climb-panel"),
    path("plans/<int:pk>/progress/", views.progress, name="progress"),
    path("steps/<int:pk>/attempts/", views.attempt_log, name="attempt-log"),
    path("attempts/<int:pk>/edit/", views.attempt_edit, name="attempt-edit"),
    path("attempts/<int:pk>/delete/", views.attempt_delete, name="attempt-delete"),
]
