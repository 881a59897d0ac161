"""The bin: what was deleted in the last thirty days, put back or erased."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.changes.bin import empty_old
from wren_ladder.studio.pages.requests import owned_or_404
from wren_ladder.studio.pages.undo import out_of_bin, take_back


@require_safe
def bin_page(request):
    empty_old(request.user, timezone.localdate())
    binned = Binned.objects.filter(owner=request.user).defer("rows")
    return render(request, "bin/bin.html", {"binned": binned})


@require_POST
def bin_back(request, pk):
    binned = owned_or_404(Binned, request.user, pk)
    take_back(request, out_of_bin, binned.pk)
    return redirect("bin")


@require_POST
def bin_erase(request, pk):
    """At once and for good, for privacy."""
    binned = owned_or_404(Binned, request.user, pk)
    binned.delete()
    messages.success(request, f"{binned.what} is erased for good.")
    return redirect("bin")
