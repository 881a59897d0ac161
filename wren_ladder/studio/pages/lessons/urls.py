from django.urls import path

from wren_ladder.studio.pages.lessons import views

urlpatterns = [
    path("students/<int:pk>/lesson/", views.lesson_mode, name="lesson-mode"),
    path("students/<int:pk>/lesson/entries/", views.lesson_entries, name="lesson-entries"),
    path("students/<int:pk>/lesson/bar/", views.lesson_bar, name="lesson-bar"),
    path("students/<int:pk>/lesson/music/<int:step>/", views.lesson_music, name="lesson-music"),
    path("students/<int:pk>/lesson/limbs/", views.lesson_limbs, name="lesson-limbs"),
    path("students/<int:pk>/lesson/end/", views.lesson_end, name="lesson-end"),
    path("lessons/<int:pk>/set/", views.lesson_set, name="lesson-set"),
    path("students/<int:pk>/week/", views.week_page, name="week"),
    path("students/<int:pk>/week.pdf", views.week_sheet, name="week-sheet"),
    path("lessons/<int:pk>/", views.lesson_page, name="lesson"),
    path("lessons/<int:pk>/delete/", views.lesson_delete, name="lesson-delete"),
]
