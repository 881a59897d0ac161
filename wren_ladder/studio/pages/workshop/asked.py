"""What a page of the workshop was asked: whom it works for, and codes from its address."""

from django.http import HttpRequest

from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.pages.workshop.tray import How, tray_of
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of

CHOSEN = "workshop_student"  # of the session: whom the workshop makes things for
OTHERS = "workshop_others"  # of the session: who is given the same


def whom_of(request: HttpRequest) -> Student | None:
    """The student that was chosen in the workshop last; asked for anew by the address."""
    mine = students_of(request.user)
    asked = request.GET.get("student")
    if asked is not None:
        request.session[CHOSEN] = read_whole(asked)
        request.session[OTHERS] = [read_whole(one) for one in request.GET.getlist("also")]
    return mine.filter(pk=request.session.get(CHOSEN) or 0).first()


def context_of(request: HttpRequest, at: str) -> dict:
    students = students_of(request.user).filter(status=Student.Status.HERE)
    lying = tray_of(request)
    whom, also = whom_of(request), request.session.get(OTHERS) or []
    back = request.htmx.current_url_abs_path if request.htmx else request.get_full_path()
    return {
        "whom": whom,
        "first_name": whom.name.split()[0] if whom else "",
        "students": students,
        "others": [one for one in students if whom and one.pk in also and one != whom],
        "at": at,
        "back": back,
        "tray": lying,
        "on_tray": [one.recipe for one in lying],
        "hows": list(How),
    }


def coded(request: HttpRequest, codes, name: str):
    asked = request.GET.get(name)
    return codes(asked) if asked in tuple(codes) else next(iter(codes))
