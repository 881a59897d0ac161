from django.contrib.auth.views import LogoutView
from django.urls import path

from wren_ladder.studio.pages.accounts import views

urlpatterns = [
    path("log-in/", views.LogIn.as_view(), name="login"),
    path("log-out/", LogoutView.as_view(), name="logout"),
    path("first-log-in/", views.first_log_in, name="first-log-in"),
    path("password/", views.ChangePassword.as_view(), name="password"),
]
