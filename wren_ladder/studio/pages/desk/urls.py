from django.urls import path

from wren_ladder.studio.pages.desk import views

urlpatterns = [
    path("", views.desk, name="desk"),
    path("rungs-changed/seen/", views.rungs_seen, name="rungs-seen"),
    path("trial/", views.trial, name="trial"),
]
