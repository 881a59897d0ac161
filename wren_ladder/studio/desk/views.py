"""The Desk: every climb at a glance, and what to do next."""

from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_safe

from wren_ladder.studio.lessons.models import Plan
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.students.models import Student


@require_safe
def desk(request):
    """Three queries whatever the number of students: plans keep where they stand."""
    today = timezone.localdate()
    plans = (
        Plan.objects.filter(owner=request.user, student__isnull=False)
        .select_related("student", "piece", "held_by")
        .defer("student__notes", "piece__notes", "piece__import_report")
    )
    climbs = sorted((_climb(plan, today) for plan in plans), key=lambda climb: climb["order"])
    with_plan = {plan.student_id for plan in plans}
    waiting = [
        student
        for student in Student.objects.filter(owner=request.user)
        if student.pk not in with_plan
    ]
    context = {
        "today": today,
        "climbs": climbs,
        "today_count": sum(climb["today"] for climb in climbs),
        "waiting": waiting,
        "has_pieces": Piece.objects.filter(owner=request.user).exists(),
    }
    return render(request, "desk/desk.html", context)


def _climb(plan: Plan, today) -> dict:
    student = plan.student
    exam = student.exam_date
    days = (exam - today).days if exam else None
    is_today = student.lesson_day == today.weekday()
    ahead = days if days is not None and days >= 0 else 9999
    return {
        "plan": plan,
        "student": student,
        "days": days,
        "today": is_today,
        "share": plan.ready * 100 // plan.target if plan.ready else 0,
        "order": (not is_today, ahead, student.name, plan.piece.title),
    }
