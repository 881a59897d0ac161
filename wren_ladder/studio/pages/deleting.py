"""Deleting: asked first, and told with the way back."""

from django.contrib import messages
from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Model
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone

from wren_ladder.studio.changes.bin import delete_for_good, put_in_bin
from wren_ladder.studio.pages.undo import may_bring_back, out_of_bin, tell_done


def bin_of(request: HttpRequest, owner: AbstractBaseUser | None) -> str:
    """What of a student two teachers share goes back to the first."""
    return f"{owner}'s bin" if owner and owner != request.user else "the bin"


def tell_binned(
    request: HttpRequest,
    thing: Model,
    owner: AbstractBaseUser,
    what: str,
    lost: str,
    done: str,
) -> None:
    """Into the bin of ``owner``, and told with the key that brings it back."""
    binned = put_in_bin(thing, owner, what, lost, timezone.localdate())
    said = f"{done} It lies in {bin_of(request, owner)} for 30 days."
    if may_bring_back(request, binned):
        tell_done(request, said, out_of_bin, binned.pk)
    else:
        messages.success(request, said)


def confirm_delete(
    request: HttpRequest,
    thing: Model,
    *,
    what: str,
    lost: str,
    back: str,
    then: str,
    done: str,
    owner: AbstractBaseUser | None = None,
) -> HttpResponse:
    """Ask before ``thing`` is deleted, saying what goes with it; then say that it lies in the
    bin of its ``owner``, of who deletes it where nothing else is said, or is gone for good
    where its owner asked for that."""
    others = owner is not None and owner != request.user
    if request.method == "POST":
        if "for_good" in request.POST and not others:
            delete_for_good(thing)
            messages.success(request, f"{done} It is erased for good.")
        else:
            tell_binned(request, thing, owner or request.user, what, lost, done)
        return redirect(then)
    context = {"what": what, "lost": lost, "back": back, "whose_bin": owner if others else None}
    return render(request, "_delete.html", context)
