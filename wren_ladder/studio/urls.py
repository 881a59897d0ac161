"""Every address of the studio."""

from django.urls import include, path

from wren_ladder.studio.pages.undo import undo

urlpatterns = [
    path("", include("wren_ladder.studio.pages.desk.urls")),
    path("undo/", undo, name="undo"),
    path("", include("wren_ladder.studio.pages.accounts.urls")),
    path("pieces/", include("wren_ladder.studio.pages.pieces.urls")),
    path("pieces/", include("wren_ladder.studio.pages.editor.urls")),
    path("pieces/", include("wren_ladder.studio.pages.piece_room.urls")),
    path("printed/", include("wren_ladder.studio.pages.scans.urls")),
    path("workshop/", include("wren_ladder.studio.pages.workshop.urls")),
    path("rudiments/", include("wren_ladder.studio.pages.rudiments.urls")),
    path("teaching/", include("wren_ladder.studio.pages.teaching.urls")),
    path("students/", include("wren_ladder.studio.pages.students.urls")),
    path("", include("wren_ladder.studio.pages.privacy.urls")),
    path("", include("wren_ladder.studio.pages.house.urls")),
    path("", include("wren_ladder.studio.pages.plans.urls")),
    path("", include("wren_ladder.studio.pages.climb.urls")),
    path("", include("wren_ladder.studio.pages.takes.urls")),
    path("", include("wren_ladder.studio.pages.lessons.urls")),
    path("", include("wren_ladder.studio.pages.timetable.urls")),
    path("", include("wren_ladder.studio.pages.exams.urls")),
    path("", include("wren_ladder.studio.pages.link.urls")),
    path("", include("wren_ladder.studio.pages.exchange.urls")),
    path("", include("wren_ladder.studio.pages.reports.urls")),
    path("", include("wren_ladder.studio.pages.bin.urls")),
    path("", include("wren_ladder.studio.pages.words.urls")),
]
