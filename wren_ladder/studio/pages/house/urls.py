from django.urls import path

from wren_ladder.studio.pages.house import views

urlpatterns = [
    path("house/", views.house, name="house"),
    path("house/invite/", views.invite, name="house-invite"),
    path("house/invite/<int:pk>/take-back/", views.take_back, name="house-take-back"),
    path("house/members/<int:pk>/", views.member, name="house-member"),
    path("house/members/<int:pk>/leave/", views.end, name="house-leave"),
    path("house/members/<int:pk>/back/", views.back, name="house-back"),
    path("house/members/<int:pk>/owner/", views.own, name="house-owner"),
    path("house/members/<int:pk>/studio.json", views.member_file, name="house-file"),
    path("house/members/<int:pk>/erase/", views.erase, name="house-erase"),
    path("house/pieces/<int:pk>/", views.shared_piece, name="shared-piece"),
    path("house/pieces/<int:pk>/copy/", views.copy, name="shared-copy"),
    path("pieces/<int:pk>/share/", views.share_piece, name="piece-share"),
    path("join/<uuid:key>/", views.join_house, name="join"),
]
