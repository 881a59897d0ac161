"""The house: who works here, who is invited, what colleagues share, who leaves."""

from django import forms
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.forms import BaseUserCreationForm
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.http import Http404, HttpRequest, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.studio.changes.sharing import leave_house, share, shared_with, take_copy
from wren_ladder.studio.drawing.score import score_lines
from wren_ladder.studio.exchange.studio_file import studio_lines
from wren_ladder.studio.house import members
from wren_ladder.studio.house.models import Invitation, Member
from wren_ladder.studio.kept_on_disk import forget
from wren_ladder.studio.pages.accounts.views import MODEL_BACKEND
from wren_ladder.studio.pages.requests import owned_or_404, posted
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.privacy.erasing import sweep


class InviteForm(forms.ModelForm):
    class Meta:
        model = Invitation
        fields = ["note"]


@require_safe
def house(request):
    own = members.membership_of(request.user)
    context = {
        "own": own,
        "members": [members.membership_of(one) for one in members.colleagues(request.user)],
        "gone": Member.objects.exclude(left=None).select_related("user"),
        "shared": shared_with(request.user),
        "mine": Piece.objects.filter(owner=request.user, shared=True),
    }
    if own.is_owner:
        invitations = members.open_invitations(timezone.now())
        context |= {"form": InviteForm(), "invitations": _with_addresses(request, invitations)}
    return render(request, "house/house.html", context)


def _with_addresses(request: HttpRequest, invitations) -> list[tuple[Invitation, str]]:
    return [
        (one, request.build_absolute_uri(reverse("join", args=[one.key])))
        for one in invitations
    ]


@require_POST
def invite(request):
    _for_the_owner(request)
    form = InviteForm(request.POST, instance=Invitation(made=timezone.now()))
    if form.is_valid():
        form.save()
        messages.success(
            request, "The invitation stands below: hand its address to them alone."
        )
    return redirect("house")


@require_POST
def take_back(request, pk):
    _for_the_owner(request)
    Invitation.objects.filter(pk=pk).delete()
    messages.success(request, "The invitation opens nothing any more.")
    return redirect("house")


@login_not_required
@require_http_methods(["GET", "POST"])
def join_house(request, key):
    """A colleague makes their own log-in, which nobody else knows the password of."""
    invitation = members.invitation_or_404(key, timezone.now())
    form = BaseUserCreationForm(posted(request))
    if form.is_valid():
        with transaction.atomic():
            if not Invitation.objects.filter(pk=invitation.pk).delete()[0]:
                raise Http404("used meanwhile")
            user = form.save()
            members.join(user, timezone.localdate())
        login(request, user, backend=MODEL_BACKEND)
        messages.success(request, "Welcome. This is your studio; nobody else sees into it.")
        return redirect("desk")
    status = 422 if form.is_bound else 200
    return render(request, "house/join.html", {"form": form}, status=status)


@require_safe
def member(request, pk):
    return _member(request, _for_the_owner(request, pk))


def _member(request: HttpRequest, found: Member, status: int = 200, error: str = ""):
    user = found.user
    context = {
        "member": found,
        "students": user.students.count(),
        "pieces": user.pieces.count(),
        "error": error,
    }
    return render(request, "house/member.html", context, status=status)


@require_POST
def end(request, pk):
    found = _for_the_owner(request, pk)
    leave_house(found, timezone.localdate())
    messages.success(request, f"{found.user} has left the house. Their log-in opens nothing.")
    return redirect("house-member", pk)


@require_POST
def back(request, pk):
    found = _for_the_owner(request, pk)
    members.come_back(found)
    messages.success(request, f"{found.user} is of the house again, with everything of theirs.")
    return redirect("house")


@require_POST
def own(request, pk):
    found = _for_the_owner(request, pk)
    if found.left:
        raise Http404("nobody who has left")
    members.hand_on(members.membership_of(request.user), found)
    messages.success(request, f"{found.user} is the owner of the house now.")
    return redirect("house")


@require_safe
def member_file(request, pk):
    """What is theirs goes with them, as any studio file; only of who has left."""
    found = _for_the_owner(request, pk)
    if found.left is None:
        raise Http404("they export it themselves")
    name = f"{slugify(found.user.username) or 'teacher'}-{timezone.localdate()}.json"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    lines = studio_lines(found.user)
    return StreamingHttpResponse(lines, content_type="application/json", headers=headers)


@require_POST
def erase(request, pk):
    """Who has left, with their students, for good."""
    found = _for_the_owner(request, pk)
    name = found.user.username
    if found.left is None or request.POST.get("name", "").strip() != name:
        return _member(request, found, status=422, error=f"Type {name} to erase it.")
    found.user.delete()
    forget("prints", "engravings")
    sweep()
    messages.success(request, "Their log-in is erased, with everything that was theirs.")
    return redirect("house")


@require_POST
def share_piece(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    shared = request.POST.get("shared") == "yes"
    share(piece, shared)
    said = "Colleagues can take a copy of it." if shared else "Nobody else sees it any more."
    messages.success(request, said)
    return redirect(piece)


@require_safe
def shared_piece(request, pk):
    piece = get_object_or_404(shared_with(request.user), pk=pk)
    lines = score_lines(study_of(piece), counts=True, hands=False)
    return render(request, "house/shared_piece.html", {"piece": piece, "lines": lines})


@require_POST
def copy(request, pk):
    piece = get_object_or_404(shared_with(request.user), pk=pk)
    made = take_copy(piece, request.user)
    messages.success(
        request, f"{made.title} is yours now: what you change is changed here only."
    )
    return redirect(made)


def _for_the_owner(request: HttpRequest, pk: int | None = None) -> Member | None:
    """Only the owner of the house; the member that is meant, where one is, not themselves."""
    if not members.membership_of(request.user).is_owner:
        raise PermissionDenied
    if pk is None:
        return None
    others = Member.objects.exclude(user=request.user).select_related("user")
    return get_object_or_404(others, pk=pk)
