"""A piece's vocabulary against a student's grade: what is known, due and new."""

from dataclasses import dataclass

from django.http import HttpRequest

from wren_ladder.drumming.grades import MOST_GRADE
from wren_ladder.drumming.judging.syllabus import Item, Status, vocabulary
from wren_ladder.studio.pages.printing import paper_of
from wren_ladder.studio.pages.requests import number_asked
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of
from wren_ladder.studio.teaching.models import syllabus_of

MOST_BARS = 12  # of a line; the others are counted


@dataclass(frozen=True, slots=True)
class Line:
    item: Item
    bars: tuple[tuple[int, str], ...]  # (place, number) as far as they are shown
    more: int


def vocabulary_context(request: HttpRequest, piece: Piece) -> dict:
    """For the student or the grade asked for; the piece's own grade to begin with."""
    students = list(students_of(request.user))
    student = _student(request, students)
    grade = student.grade if student else _grade(request, piece)
    style = student.style if student else None
    studied = study_of(piece, style)
    numbers = [bar.number for bar in studied.chart.bars]
    lines = [
        Line(
            item,
            tuple((place, numbers[place]) for place in item.bars[:MOST_BARS]),
            max(0, len(item.bars) - MOST_BARS),
        )
        for item in vocabulary(studied, grade, syllabus_of(piece.owner_id))
    ]
    order = (Status.NEW, Status.DUE, Status.KNOWN)
    return {
        "piece": piece,
        "played": len(studied.visits),
        "students": students,
        "student": student,
        "grade": grade,
        "grades": range(1, MOST_GRADE + 1),
        "groups": [(s.value, [line for line in lines if line.item.status is s]) for s in order],
        **paper_of(request),
    }


def _student(request: HttpRequest, students: list[Student]) -> Student | None:
    asked = request.GET.get("student", "")
    return next((one for one in students if str(one.pk) == asked), None)


def _grade(request: HttpRequest, piece: Piece) -> int:
    asked = number_asked(request, "grade")
    given = (piece.grade or 1) if asked is None else asked
    return min(max(given, 1), MOST_GRADE)
