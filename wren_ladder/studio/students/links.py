"""A student's private address: signed, without an account, gone when it is revoked.

The address holds the student's number and a key that is kept with the student. A new key, or
none, makes every address before it worthless.
"""

import secrets

import segno
from django.core import signing
from django.http import Http404, HttpRequest
from django.urls import reverse
from django.utils.safestring import SafeString, mark_safe

from wren_ladder.studio.students.models import Student

SALT = "a student's link"


def open_link(student: Student) -> None:
    """A new address; the one before no longer works."""
    student.link_key = secrets.token_urlsafe(12)
    student.save(update_fields=["link_key"])


def revoke(student: Student) -> None:
    student.link_key = ""
    student.save(update_fields=["link_key"])


def path_of(student: Student) -> str:
    """The same at every showing, so that what was copied, mailed and printed is one address."""
    signed = signing.Signer(salt=SALT).sign_object([student.pk, student.link_key])
    return reverse("link", args=[signed])


def address_of(request: HttpRequest, student: Student) -> str:
    return request.build_absolute_uri(path_of(student))


def link_out(request: HttpRequest, student: Student) -> dict:
    """What a page needs to hand the address out: as it stands, by mail, as a QR code."""
    address = address_of(request, student)
    first = student.name.split()[0]
    return {
        "link_address": address,
        "link_qr": qr_svg(address),
        "link_subject": f"{first}'s practice page",
        "link_body": f"{first}'s own page, to log practice and see the ladder. It is for "
        f"{first} alone; please do not pass it on.\n\n{address}",
    }


def student_or_404(signed: str) -> Student:
    """Whose address it is; Http404 for one that was never given out or was revoked."""
    try:
        pk, key = _opened(signed)
    except (signing.BadSignature, ValueError):
        raise Http404("no such link")
    # Who has left the house has closed their students' links.
    student = Student.objects.filter(pk=pk, owner__is_active=True).first()
    known = student is not None and student.link_key
    if not known or not secrets.compare_digest(student.link_key, str(key)):
        raise Http404("this link was revoked")
    return student


def _opened(signed: str) -> list:
    """Addresses that were given out first hold the time of their showing too: one part more."""
    if signed.count(":") == 2:
        return signing.loads(signed, salt=SALT)
    return signing.Signer(salt=SALT).unsign_object(signed)


def qr_svg(address: str) -> SafeString:
    """The address as a QR code (ISO/IEC 18004, by segno), an SVG to stand in a page."""
    code = segno.make(address, error="m", micro=False)
    drawn = code.svg_inline(scale=4, border=4, dark="#1F2A2E", omitsize=True)
    return mark_safe(drawn)
