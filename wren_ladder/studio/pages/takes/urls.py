from django.urls import path

from wren_ladder.studio.pages.takes import views

urlpatterns = [
    path("steps/<int:pk>/takes/", views.take_record, name="take-record"),
    path("steps/<int:pk>/listen/", views.take_listen, name="take-listen"),
    path("takes/<int:pk>/", views.take_page, name="take"),
    path("takes/<int:pk>/delete/", views.take_delete, name="take-delete"),
    path("takes/rules/", views.take_rules, name="take-rules"),
    path("takes/calibrate/", views.calibrate, name="calibrate"),
]
