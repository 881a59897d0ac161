from django.urls import path

from wren_ladder.studio.pages.privacy import views

urlpatterns = [
    path("privacy/", views.privacy, name="privacy"),
    path("students/<int:pk>/kept/", views.student_kept, name="student-kept"),
    path("students/<int:pk>/file/", views.student_export, name="student-file"),
    path("students/<int:pk>/erase/", views.student_erase, name="student-erase"),
]
