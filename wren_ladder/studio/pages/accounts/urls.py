from django.urls import path

from wren_ladder.studio.pages.accounts import account_views, views

urlpatterns = [
    path("log-in/", views.LogIn.as_view(), name="login"),
    path("log-out/", views.LogOut.as_view(), name="logout"),
    path("first-log-in/", views.first_log_in, name="first-log-in"),
    path("password/", views.ChangePassword.as_view(), name="password"),
    path("account/", account_views.account, name="account"),
    path("account/elsewhere/", account_views.log_out_elsewhere, name="log-out-elsewhere"),
    path("account/second-factor/", account_views.turn_on, name="second-factor"),
    path("account/second-factor/off/", account_views.turn_off, name="second-factor-off"),
]
