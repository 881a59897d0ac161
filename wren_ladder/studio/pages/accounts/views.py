"""Logging in, the first log-in of a new studio, another password."""

from ipaddress import ip_address

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.forms import BaseUserCreationForm
from django.contrib.auth.models import User
from django.contrib.auth.views import LoginView, LogoutView, PasswordChangeView
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest
from django.shortcuts import redirect, render
from django.urls import reverse_lazy
from django.utils import timezone
from django.views.decorators.http import require_http_methods

from wren_ladder.studio.house.members import join
from wren_ladder.studio.pages.accounts.forms import LogInForm
from wren_ladder.studio.pages.requests import posted

THIS_MACHINE = {"127.0.0.1", "localhost", "[::1]"}
MODEL_BACKEND = "django.contrib.auth.backends.ModelBackend"


class LogIn(LoginView):
    template_name = "accounts/log_in.html"
    authentication_form = LogInForm

    def get(self, request, *args, **kwargs):
        if not User.objects.exists() and _is_this_machine(request):
            return redirect("first-log-in")
        return super().get(request, *args, **kwargs)


class LogOut(LogoutView):
    """What the browser keeps of the pages goes too; what waits there to be sent does not."""

    def dispatch(self, request, *args, **kwargs):
        answer = super().dispatch(request, *args, **kwargs)
        answer["Clear-Site-Data"] = '"cache"'
        return answer


class ChangePassword(PasswordChangeView):
    template_name = "accounts/password.html"
    success_url = reverse_lazy("desk")

    def form_valid(self, form):
        messages.success(self.request, "Your new password holds from now on.")
        return super().form_valid(form)

    def form_invalid(self, form):
        return self.render_to_response(self.get_context_data(form=form), status=422)


@login_not_required
@require_http_methods(["GET", "POST"])
def first_log_in(request):
    """Whoever sits at the machine makes the first log-in; nobody else can, and none twice."""
    if User.objects.exists():
        return redirect("login")
    if not _is_this_machine(request):
        raise PermissionDenied
    form = BaseUserCreationForm(posted(request))
    if form.is_valid():
        user = form.save()
        join(user, timezone.localdate())
        login(request, user, backend=MODEL_BACKEND)
        messages.success(request, "This is your studio. Begin with a student or a piece.")
        return redirect("desk")
    status = 422 if form.is_bound else 200
    return render(request, "accounts/first_log_in.html", {"form": form}, status=status)


def _is_this_machine(request: HttpRequest) -> bool:
    """Behind a proxy everybody seems to sit at this machine, so there nobody does."""
    if settings.HTTPS or "HTTP_X_FORWARDED_FOR" in request.META:
        return False
    host = request.get_host().rsplit(":", 1)[0]
    return host in THIS_MACHINE and ip_address(request.META["REMOTE_ADDR"]).is_loopback
