from django.urls import path

from wren_ladder.studio.pages.workshop import views

urlpatterns = [
    path("", views.shelf_page, name="workshop"),
    path("grooves/", views.groove_board, name="groove-board"),
    path("grooves/<slug:hands>/<slug:kick>/", views.groove_panel, name="groove-panel"),
    path("stickings/", views.stickings, name="stickings"),
    path("fills/", views.fills, name="fills"),
    path("accents/", views.accents, name="accents"),
    path("feet/", views.foot_studies, name="foot-studies"),
    path("warm-ups/", views.warm_ups, name="warm-ups"),
    path("warm-ups/sheet.pdf", views.warm_up_sheet, name="warm-up-sheet"),
    path("sheet.pdf", views.exercise_sheet, name="exercise-sheet"),
    path("give/", views.give, name="give-exercise"),
]
