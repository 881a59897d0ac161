"""What a teacher says about some bars, in their own words: which of it belongs to a step, and
what was said before where the same comes again."""

from collections.abc import Iterable, Sequence

from django.db.models import Q, QuerySet

from wren_ladder.studio.plans.models import Plan, Saying, SayingSound, Step
from wren_ladder.studio.students.models import Student

FEW = 4  # bars: in a longer step only what was said of all of it
OFFERED, REMEMBERED = 12, 60  # of what was said before


def sayings_for(plans: Iterable[Plan]) -> list[Saying]:
    """Of all bars of the plans' pieces, for everybody and for those who climb them."""
    plans = list(plans)
    found = Saying.objects.filter(first__piece__in={plan.piece_id for plan in plans})
    students = {plan.student_id for plan in plans}
    found = found.filter(Q(student=None) | Q(student__in=students))
    return list(found.select_related("first", "last", "student"))


def said_of(step: Step, sayings: Sequence[Saying]) -> tuple[Saying, ...]:
    """What is said of a step's bars, the student's own last: nearest to the music."""
    if not step.music_is_there:
        return ()
    piece, student = step.first.piece_id, step.plan.student_id
    low, high = step.first.position, step.last.position
    mine = [
        one
        for one in sayings
        if one.first.piece_id == piece and one.student_id in (None, student)
    ]
    return tuple(
        one
        for one in sorted(mine, key=lambda one: (one.student_id is not None, one.pk))
        if _within(one.span, low, high) and (high - low < FEW or one.span == (low, high))
    )


def sound_of(sayings: Iterable[Saying], pk: int) -> tuple[bytes, str] | None:
    """(the sound, its kind) of one of these; None where it is none of them, or was only
    written."""
    one = next((one for one in sayings if one.pk == pk and one.sound_type), None)
    if one is None:
        return None
    return bytes(SayingSound.objects.get(saying=one).data), one.sound_type


def texts_of(step: Step, sayings: Sequence[Saying]) -> tuple[str, ...]:
    """On paper, what can be read."""
    return tuple(one.text for one in said_of(step, sayings) if one.text)


def said_to(student: Student) -> QuerySet[Saying]:
    """What can be read of all that is said to one student alone, as the pieces go."""
    found = student.sayings.exclude(text="").select_related("first__piece", "last")
    return found.order_by("first__piece__title", "first__position", "pk")


def _within(span: tuple[int, int], low: int, high: int) -> bool:
    return low <= span[0] and span[1] <= high


def recent_sayings(owner_id: int) -> list[Saying]:
    """What the teacher said of anything, the latest first."""
    found = (
        Saying.objects.filter(first__piece__owner=owner_id)
        .exclude(text="")
        .order_by("-day", "-pk")
    )
    return list(found.only("text", "first_id", "student_id")[:REMEMBERED])


def said_before(step: Step, here: Sequence[Saying], recent: Sequence[Saying]) -> list[str]:
    """To be said again: of this very bar to others first, each once, without what is said
    ``here`` already."""
    there = {one.text for one in here}
    ordered = sorted(recent, key=lambda one: one.first_id != step.first_id)
    return [text for text in dict.fromkeys(one.text for one in ordered) if text not in there][
        :OFFERED
    ]
