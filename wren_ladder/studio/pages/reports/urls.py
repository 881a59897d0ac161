from django.urls import path

from wren_ladder.studio.pages.reports import views

urlpatterns = [
    path("students/<int:pk>/report/", views.report_words, name="report-words"),
    path("students/<int:pk>/report.pdf", views.report, name="report"),
]
