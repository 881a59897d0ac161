from django.urls import path

from wren_ladder.studio.pages.students import views

urlpatterns = [
    path("", views.student_list, name="students"),
    path("new/", views.student_new, name="student-new"),
    path("<int:pk>/", views.student_page, name="student"),
    path("<int:pk>/compare/", views.student_compare, name="student-compare"),
    path("<int:pk>/edit/", views.student_edit, name="student-edit"),
    path("<int:pk>/status/", views.student_status, name="student-status"),
    path("<int:pk>/second-teacher/", views.student_second, name="student-second"),
    path("<int:pk>/delete/", views.student_delete, name="student-delete"),
]
