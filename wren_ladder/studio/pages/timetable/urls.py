from django.urls import path

from wren_ladder.studio.pages.timetable import views

urlpatterns = [
    path("lessons/", views.timetable, name="timetable"),
    path("lessons/<int:pk>/change/", views.lesson_change, name="lesson-change"),
    path("lessons/<int:pk>/back/", views.lesson_back, name="lesson-back"),
    path("students/<int:pk>/lessons/new/", views.lesson_new, name="lesson-new"),
    path("students/<int:pk>/lessons/off/", views.lesson_off, name="lesson-off"),
    path("lessons/periods/", views.periods, name="periods"),
    path("lessons/periods/<int:pk>/delete/", views.period_delete, name="period-delete"),
    path("lessons/term/", views.term, name="term"),
    path("lessons/term.csv", views.term_csv, name="term-csv"),
    path("lessons/term.pdf", views.term_sheet, name="term-sheet"),
]
