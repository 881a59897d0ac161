from django.urls import path

from wren_ladder.studio.pages.workshop import (
    fills_page,
    giving,
    grooves_page,
    own_page,
    paper,
    reading_page,
    shelf_page,
    studies_page,
    tray_page,
    warm_ups_page,
)

urlpatterns = [
    path("", shelf_page.shelf_page, name="workshop"),
    path("grooves/", grooves_page.groove_board, name="groove-board"),
    path("grooves/<slug:hands>/<slug:kick>/", grooves_page.groove_panel, name="groove-panel"),
    path("stickings/", studies_page.stickings, name="stickings"),
    path("fills/", fills_page.fills, name="fills"),
    path("accents/", studies_page.accents, name="accents"),
    path("feet/", studies_page.foot_studies, name="foot-studies"),
    path("warm-ups/", warm_ups_page.warm_ups, name="warm-ups"),
    path("warm-ups/sheet.pdf", warm_ups_page.warm_up_sheet, name="warm-up-sheet"),
    path("reading/", reading_page.reading, name="reading"),
    path("sheet.pdf", paper.exercise_sheet, name="exercise-sheet"),
    path("tray.pdf", paper.tray_sheet, name="tray-sheet"),
    path("tray/", tray_page.tray, name="tray"),
    path("tray/take/", tray_page.take, name="tray-take"),
    path("shelf/<int:pk>/", own_page.put_on_shelf, name="shelf-put"),
    path("exercises.wren", own_page.pack_out, name="pack-out"),
    path("exercises/", own_page.pack_in, name="pack-in"),
    path("give/", giving.give, name="give-exercise"),
]
