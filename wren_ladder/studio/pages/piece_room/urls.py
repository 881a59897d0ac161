from django.urls import path

from wren_ladder.studio.pages.piece_room import views

urlpatterns = [
    path("<int:pk>/room/", views.piece_room, name="piece-room"),
    path("<int:pk>/room/recording/", views.recording_attach, name="recording-attach"),
    path("<int:pk>/room/recording/place/", views.recording_place, name="recording-place"),
    path("<int:pk>/room/recording/take/", views.recording_delete, name="recording-delete"),
    path("<int:pk>/room/recording/file/", views.recording_file, name="recording-file"),
]
