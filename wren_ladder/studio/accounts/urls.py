from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

urlpatterns = [
    path("log-in/", LoginView.as_view(template_name="accounts/log_in.html"), name="login"),
    path("log-out/", LogoutView.as_view(), name="logout"),
]
