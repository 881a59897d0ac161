"""Logging in, the first log-in of a new studio, another password."""

from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.models import User
from django.contrib.auth.views import LoginView, LogoutView, PasswordChangeView
from django.db import transaction
from django.shortcuts import redirect, render
from django.urls import reverse_lazy
from django.utils import timezone
from django.views.decorators.http import require_http_methods
from django_ratelimit.core import is_ratelimited

from wren_ladder.studio.accounts.start_up import start_up_code
from wren_ladder.studio.house.members import join
from wren_ladder.studio.pages.accounts.forms import FirstLogInForm, LogInForm
from wren_ladder.studio.pages.requests import posted

GUESSES = "10/m"  # of the start-up code, from one machine
MODEL_BACKEND = "django.contrib.auth.backends.ModelBackend"


class LogIn(LoginView):
    template_name = "accounts/log_in.html"
    authentication_form = LogInForm

    def get(self, request, *args, **kwargs):
        if not User.objects.exists():
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
    """Whoever has the code of the terminal makes the first log-in, and none is made twice: of
    several at once each waits for the one before."""
    if User.objects.exists():
        return redirect("login")
    form = FirstLogInForm(posted(request))
    if request.method == "POST" and is_ratelimited(
        request, group="start-up", key="ip", rate=GUESSES, increment=True
    ):
        form.add_error("code", "Too many codes were tried from here: wait a minute.")
    if form.is_valid():
        with transaction.atomic():
            if User.objects.exists():
                return redirect("login")
            user = form.save()
            join(user, timezone.localdate())
        start_up_code()  # it goes, now that somebody has a log-in
        login(request, user, backend=MODEL_BACKEND)
        messages.success(request, "This is your studio. Begin with a student or a piece.")
        return redirect("desk")
    status = 422 if form.is_bound else 200
    return render(request, "accounts/first_log_in.html", {"form": form}, status=status)
