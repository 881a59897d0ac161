from django.urls import path

from wren_ladder.studio.pages.editor import saving, text, views

# Of a new piece, and of one that is there: the same pages for both.
EDITOR = [
    ("", views.piece_editor, ""),
    ("bar/", views.editor_bar, "-bar"),
    ("text/", text.editor_text, "-text"),
    ("save/", saving.editor_save, "-save"),
    ("discard/", saving.editor_discard, "-discard"),
]

urlpatterns = [
    *(path(f"new/{end}", view, name=f"piece-new{name}") for end, view, name in EDITOR),
    *(
        path(f"<int:pk>/edit/{end}", view, name=f"piece-edit{name}")
        for end, view, name in EDITOR
    ),
]
