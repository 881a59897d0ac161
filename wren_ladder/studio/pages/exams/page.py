"""What an exam's page shows: the programme with who is ready for what, and the mock exams."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import groupby

from wren_ladder.drumming.forecast import Outlook
from wren_ladder.studio.climb.forecasts import outlook_of
from wren_ladder.studio.exams.models import Exam, ExamItem, MockRun


@dataclass(frozen=True, slots=True)
class ProgrammeLine:
    """``seen`` is how a piece stands, None for what is said in words."""

    item: ExamItem
    seen: Outlook | None


def programme(exam: Exam, today: date) -> list[ProgrammeLine]:
    items = exam.items.select_related(
        "plan__owner", "plan__student", "plan__piece", "plan__standing__held_by__standing"
    )
    return [
        ProgrammeLine(one, outlook_of(one.plan, today) if one.plan else None) for one in items
    ]


def mocks_of(exam: Exam) -> list[tuple[date, list[MockRun]]]:
    """(day, its runs in the order of the programme), the last first."""
    runs: Sequence[MockRun] = MockRun.objects.filter(item__exam=exam).select_related("item")
    days = [(day, list(mine)) for day, mine in groupby(runs, key=lambda run: run.day)]
    return days[::-1]
