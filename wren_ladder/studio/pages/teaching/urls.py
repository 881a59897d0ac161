from django.urls import path

from wren_ladder.studio.pages.teaching import views

urlpatterns = [
    path("", views.teaching_style, name="teaching-style"),
    path("example/", views.teaching_example, name="teaching-example"),
    path("reset/", views.teaching_reset, name="teaching-reset"),
]
