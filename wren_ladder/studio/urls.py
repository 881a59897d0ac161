"""Every address of the studio."""

from django.urls import include, path

urlpatterns = [
    path("", include("wren_ladder.studio.desk.urls")),
    path("", include("wren_ladder.studio.accounts.urls")),
    path("pieces/", include("wren_ladder.studio.pieces.urls")),
    path("rudiments/", include("wren_ladder.studio.rudiments.urls")),
    path("teaching/", include("wren_ladder.studio.teaching.urls")),
    path("students/", include("wren_ladder.studio.students.urls")),
    path("", include("wren_ladder.studio.lessons.urls")),
    path("", include("wren_ladder.studio.practice.urls")),
    path("", include("wren_ladder.studio.day.urls")),
    path("", include("wren_ladder.studio.sharing.urls")),
    path("", include("wren_ladder.studio.reports.urls")),
]
