"""One small piece and one student to try the studio with, and away with them again."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.changes.plans import give, plan_defaults
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student

TITLE, NAME, GRADE = "Gangway Rock (to try)", "Robin (to try)", 1
BARS = """meter 4/4
tempo crotchet = 92
bar 1
section A Groove
crash 1
hat 8ths from 1&
snare 2 4
kick 1 3
bar 2
hat 8ths
snare 2 4
kick 1 3
bar 3 as 2
bar 4 as 2
kick 1 3 3&
bar 5
section B Ride
ride 8ths
snare 2 4
kick 1 3
bars 6-7 as 5
bar 8
snare 1 1& 2 2&
high 3 3&
floor 4 4&
kick 1 3
"""


@transaction.atomic
def try_out(teacher: AbstractBaseUser) -> Student:
    """Made once; the second time they are only found again."""
    there = Student.objects.filter(owner=teacher, trial=True).first()
    if there:
        return there
    piece = add_piece(teacher, read_chart(BARS, title=TITLE), grade=GRADE, trial=True)
    student = Student.objects.create(owner=teacher, name=NAME, grade=GRADE, trial=True)
    target = piece.tempo.bpm
    rules = plan_defaults(teacher.pk, target, GRADE)
    give(Plan(owner=teacher, piece=piece, target=target, **rules), student)
    return student


@transaction.atomic
def end_trial(teacher: AbstractBaseUser) -> None:
    """For good: nobody was taught by it."""
    for model in (Student, Piece):
        model.objects.filter(owner=teacher, trial=True).delete()
