"""Students: changed and deleted."""

from datetime import date

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import F, QuerySet

from wren_ladder.studio.climb.standings import refresh_all
from wren_ladder.studio.students.models import Student

REFRESHING = {"home_days", "home_minutes", "lesson_minutes", "home_earns"}


@transaction.atomic
def change_student(student: Student, fields: dict[str, object], today: date) -> Student:
    """Only the fields given are written. The forecast's day, hands and ears are asked of the
    student whenever a page shows them. Where minutes go up, tempos stay where they are for a
    week; forecasts follow the minutes."""
    before = Student.objects.get(pk=student.pk)
    days = fields.get("home_days", before.home_days)
    minutes = fields.get("home_minutes", before.home_minutes)
    if days * minutes > before.home_days * before.home_minutes:
        fields = {**fields, "raised": today}
    Student.objects.filter(pk=student.pk).update(**fields, version=F("version") + 1)
    if REFRESHING & fields.keys():
        refresh_all(student.plans.all())
    return Student.objects.get(pk=student.pk)


@transaction.atomic
def set_second_teacher(student: Student, teacher: AbstractBaseUser | None) -> None:
    """A colleague sees and changes what hangs on this student, from now on; None: nobody but
    the student's own teacher does. Whoever was it before knows the private link: it ends."""
    was = Student.objects.get(pk=student.pk).second_teacher_id
    Student.objects.filter(pk=student.pk).update(second_teacher=teacher)
    if was and was != getattr(teacher, "pk", None):
        end_links_known_to(was, Student.objects.filter(pk=student.pk))


def end_links_known_to(teacher: int, students: QuerySet[Student]) -> None:
    """The private links of these students, which this teacher has seen, open nothing now."""
    students.exclude(owner=teacher).update(link_key="")


def set_status(student: Student, status: str) -> None:
    """Here, paused or left: everything of theirs stays, out of the way."""
    Student.objects.filter(pk=student.pk).update(status=status)
