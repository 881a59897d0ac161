from django.urls import path

from wren_ladder.studio.pages.link import take_views, views

urlpatterns = [
    path("s/<str:signed>/", views.link_page, name="link"),
    path("s/<str:signed>/worker.js", views.link_worker, name="link-worker"),
    path("s/<str:signed>/manifest.json", views.link_manifest, name="link-manifest"),
    path("s/<str:signed>/steps/<int:pk>/says/<int:saying>/", views.link_says, name="link-says"),
    path("s/<str:signed>/held/", views.link_held, name="link-held"),
    path("s/<str:signed>/pieces/<int:pk>/", views.link_piece, name="link-piece"),
    path("s/<str:signed>/pieces/<int:pk>/file/", views.link_recording, name="link-recording"),
    path("s/<str:signed>/entries/", views.link_entries, name="link-entries"),
    path("s/<str:signed>/takes/", take_views.link_take_record, name="link-take-record"),
    path("s/<str:signed>/takes/<int:pk>/", take_views.link_take, name="link-take"),
    path(
        "s/<str:signed>/takes/<int:pk>/delete/",
        take_views.link_take_delete,
        name="link-take-delete",
    ),
    path("s/<str:signed>/minutes/", views.link_minutes, name="link-minutes"),
    path("students/<int:pk>/link/", views.link_follow, name="link-follow"),
    path("students/<int:pk>/link/open/", views.link_open, name="link-open"),
    path("students/<int:pk>/link/revoke/", views.link_revoke, name="link-revoke"),
]
