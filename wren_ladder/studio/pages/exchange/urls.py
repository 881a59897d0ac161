from django.urls import path

from wren_ladder.studio.pages.exchange import views

urlpatterns = [
    path("in-and-out/", views.in_and_out, name="in-and-out"),
    path("in-and-out/attempts.csv", views.attempts_csv, name="attempts-csv"),
    path("in-and-out/students.csv", views.students_csv, name="students-csv"),
    path("in-and-out/calendar.ics", views.calendar_ics, name="calendar"),
    path("in-and-out/studio.json", views.studio_json, name="studio-json"),
    path("in-and-out/studio/", views.studio_in, name="studio-in"),
    path("in-and-out/<slug:kind>/", views.table_in, name="table-in"),
    path("calendar/<uuid:key>.ics", views.calendar_feed, name="calendar-feed"),
    path("in-and-out/calendar/address/", views.calendar_address, name="calendar-address"),
]
