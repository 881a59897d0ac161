from django.urls import path

from wren_ladder.studio.pages.pieces import import_views, views

urlpatterns = [
    path("", views.piece_list, name="pieces"),
    path("upload/", import_views.piece_upload, name="piece-upload"),
    path("imports/<int:pk>/", import_views.import_page, name="import"),
    path("imports/<int:pk>/save/", import_views.import_save, name="import-save"),
    path("imports/<int:pk>/discard/", import_views.import_discard, name="import-discard"),
    path("<int:pk>/", views.piece_page, name="piece"),
    path("<int:pk>/vocabulary/", views.piece_vocabulary, name="piece-vocabulary"),
    path("<int:pk>/vocabulary.pdf", views.piece_vocabulary_pdf, name="piece-vocabulary-pdf"),
    path("<int:pk>/road/", views.piece_road, name="piece-road"),
    path("<int:pk>/road.pdf", views.piece_road_pdf, name="piece-road-pdf"),
    path("<int:pk>/score/", views.piece_score, name="piece-score"),
    path("<int:pk>/score.pdf", views.piece_score_pdf, name="piece-score-pdf"),
    path("<int:pk>/file.<slug:ending>", views.piece_file, name="piece-file"),
    path("<int:pk>/delete/", views.piece_delete, name="piece-delete"),
    path("<int:pk>/bars/<int:index>/all/", views.bar_page, name="bar-page"),
    path("<int:pk>/bars/<int:index>/chain/", views.bar_chain, name="chain"),
    path("<int:pk>/bars/<int:index>/flip/", views.bar_flip, name="bar-flip"),
    path("<int:pk>/bars/<int:index>/", views.bar_panel, name="bar-panel"),
]
