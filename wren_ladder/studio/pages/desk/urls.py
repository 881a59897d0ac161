from django.urls import path

from wren_ladder.studio.pages.desk import views

urlpatterns = [
    path("", views.desk, name="desk"),
    path("trial/", views.trial, name="trial"),
]
