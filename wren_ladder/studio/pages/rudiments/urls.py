from django.urls import path

from wren_ladder.studio.pages.rudiments import views

urlpatterns = [
    path("", views.rudiment_shelf, name="rudiments"),
    path("<slug:slug>/", views.rudiment_page, name="rudiment"),
]
