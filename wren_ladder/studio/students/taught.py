"""Whose student is it? The one door to students and to everything that hangs on them.

A student is of one teacher's studio, and may have a second teacher of the same house, who sees
and changes what the first does; only the first chooses the second, hands out the student's file
and erases.
"""

from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Q, QuerySet

from wren_ladder.studio.students.models import Student


def students_of(teacher: AbstractBaseUser | int) -> QuerySet[Student]:
    """Their own, and those whose second teacher they are while the first is of the house."""
    second = Q(second_teacher=teacher, owner__is_active=True)
    return Student.objects.filter(Q(owner=teacher) | second)
