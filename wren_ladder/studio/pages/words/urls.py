from django.urls import path

from wren_ladder.studio.pages.words import views

urlpatterns = [path("words/", views.words, name="words")]
