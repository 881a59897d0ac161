from django.urls import path

from wren_ladder.studio.pieces import views

urlpatterns = [
    path("", views.piece_list, name="pieces"),
    path("new/", views.piece_new, name="piece-new"),
    path("preview/", views.piece_preview, name="piece-preview"),
    path("upload/", views.piece_upload, name="piece-upload"),
    path("<int:pk>/", views.piece_page, name="piece"),
    path("<int:pk>/road/", views.piece_road, name="piece-road"),
    path("<int:pk>/score/", views.piece_score, name="piece-score"),
    path("<int:pk>/score.pdf", views.piece_score_pdf, name="piece-score-pdf"),
    path("<int:pk>/file.<slug:ending>", views.piece_file, name="piece-file"),
    path("<int:pk>/edit/", views.piece_edit, name="piece-edit"),
    path("<int:pk>/delete/", views.piece_delete, name="piece-delete"),
    path("<int:pk>/bars/<int:index>/", views.bar_panel, name="bar-panel"),
]
