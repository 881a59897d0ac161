"""The bin: what was deleted in the last thirty days, put back or erased."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import BinError, empty_old, put_back
from wren_ladder.studio.pages.requests import owned_or_404


@require_safe
def bin_page(request):
    empty_old(request.user, timezone.localdate())
    binned = Binned.objects.filter(owner=request.user).defer("rows")
    return render(request, "bin/bin.html", {"binned": binned})


@require_POST
def bin_back(request, pk):
    binned = owned_or_404(Binned, request.user, pk)
    try:
        left_out = put_back(binned)
    except BinError as error:
        messages.error(request, str(error))
    else:
        messages.success(request, back_said(binned.what, left_out))
    return redirect("bin")


def back_said(what: str, left_out: str) -> str:
    if not left_out:
        return f"{what} is back, as it was."
    return f"{what} is back, without {left_out}: what they belonged to is gone."


@require_POST
def bin_erase(request, pk):
    """At once and for good, for privacy."""
    binned = owned_or_404(Binned, request.user, pk)
    binned.delete()
    messages.success(request, f"{binned.what} is erased for good.")
    return redirect("bin")
