from django.urls import path

from wren_ladder.studio.pages.bin import views

urlpatterns = [
    path("bin/", views.bin_page, name="bin"),
    path("bin/<int:pk>/back/", views.bin_back, name="bin-back"),
    path("bin/<int:pk>/erase/", views.bin_erase, name="bin-erase"),
]
