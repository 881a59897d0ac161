"""Students: changed and deleted."""

from django.db import transaction
from django.db.models import F

from wren_ladder.studio.changes.pieces import rename_piece
from wren_ladder.studio.pieces.models import Piece, drills_title
from wren_ladder.studio.students.models import Student


@transaction.atomic
def change_student(student: Student, fields: dict[str, object]) -> Student:
    """Only the fields given are written. The piece of a student's drills bears their name; the
    forecast's day, hands and ears are asked of the student whenever a page shows them."""
    Student.objects.filter(pk=student.pk).update(**fields, version=F("version") + 1)
    for piece in Piece.objects.filter(drills_of=student) if "name" in fields else ():
        rename_piece(piece, drills_title(str(fields["name"])))
    return Student.objects.get(pk=student.pk)
