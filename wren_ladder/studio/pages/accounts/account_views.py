"""The teacher's own log-in: password, second factor, where it is open."""

import segno
from django.conf import settings
from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.studio.accounts import log_ins, second_factor
from wren_ladder.studio.pages.accounts.forms import CodeForm, TurnOffForm
from wren_ladder.studio.pages.requests import posted


@require_safe
def account(request):
    return _page(request)


def _page(request, status: int = 200, **more):
    context = {
        "others": len(log_ins.elsewhere(request.user, request.session.session_key)),
        "factor": second_factor.is_on(request.user),
        "codes_left": second_factor.codes_left(request.user),
        "turn_off": TurnOffForm(),
        "idle_hours": settings.IDLE_HOURS,
        **more,
    }
    return render(request, "accounts/account.html", context, status=status)


@require_POST
def log_out_elsewhere(request):
    many = log_ins.end_elsewhere(request.user, request.session.session_key)
    ended = f"{many} other log-ins were ended" if many != 1 else "1 other log-in was ended"
    messages.success(request, f"{ended}. Only this browser is logged in.")
    return redirect("account")


@require_http_methods(["GET", "POST"])
def turn_on(request):
    """The secret as a picture and as letters, then a code that shows that the app has it."""
    if second_factor.is_on(request.user):
        return redirect("account")
    form = CodeForm(posted(request))
    if form.is_valid():
        if codes := second_factor.turn_on(request.user, form.cleaned_data["code"]):
            log_ins.end_elsewhere(request.user, request.session.session_key)
            return render(request, "accounts/recovery_codes.html", {"codes": codes})
        form.add_error("code", "That is not what the app should show. Is its clock right?")
    device = second_factor.begin(request.user)
    context = {
        "form": form,
        "picture": segno.make(device.config_url, micro=False).svg_data_uri(scale=4, border=4),
        "secret": device.config_url.partition("secret=")[2].partition("&")[0],
    }
    status = 422 if form.is_bound else 200
    return render(request, "accounts/second_factor.html", context, status=status)


@require_POST
def turn_off(request):
    form = TurnOffForm(request.POST)
    if form.is_valid() and request.user.check_password(form.cleaned_data["password"]):
        second_factor.turn_off(request.user)
        messages.success(request, "The password alone opens your log-in again.")
        return redirect("account")
    if form.is_valid():
        form.add_error("password", "That is not your password.")
    return _page(request, status=422, turn_off=form)
