from django.urls import path

from wren_ladder.studio.pages.exams import views

urlpatterns = [
    path("students/<int:pk>/exams/new/", views.exam_new, name="exam-new"),
    path("exams/<int:pk>/", views.exam_page, name="exam"),
    path("exams/<int:pk>/edit/", views.exam_edit, name="exam-edit"),
    path("exams/<int:pk>/mock/", views.exam_mock, name="exam-mock"),
    path("exams/<int:pk>/mock.pdf", views.mock_sheet, name="mock-sheet"),
    path("exams/<int:pk>/result/", views.exam_result, name="exam-result"),
    path("exams/<int:pk>/next-grade/", views.exam_next_grade, name="exam-next-grade"),
    path("exams/<int:pk>/delete/", views.exam_delete, name="exam-delete"),
]
