"""Open the studio's database as a newly installed version does; prints what it found.

Run by itself, for a database of its own: ``python -m tests.studio.open_database``.
"""

import json
import os
import sys

os.environ["DJANGO_SETTINGS_MODULE"] = "wren_ladder.studio.settings"


def main() -> None:
    import django

    django.setup()
    from django.conf import settings
    from django.contrib.auth.models import User
    from django.core.management import call_command
    from django.test import Client

    from wren_ladder.studio.bin.models import Binned
    from wren_ladder.studio.climb.models import Attempt, HomeMinutes, StepStanding, Take
    from wren_ladder.studio.climb.standings import catch_up
    from wren_ladder.studio.lessons.models import Lesson
    from wren_ladder.studio.pieces.models import Piece
    from wren_ladder.studio.plans.models import Plan, Step
    from wren_ladder.studio.students.models import Student

    settings.ALLOWED_HOSTS = ["*"]
    call_command("migrate", verbosity=0)
    catch_up()
    models = (Student, Piece, Plan, Step, Attempt, HomeMinutes, Lesson)
    browser = Client()
    browser.force_login(User.objects.first())
    pages = ["/", "/pieces/", "/students/", "/teaching/"]
    pages += [one.get_absolute_url() for one in (*Piece.objects.all(), *Student.objects.all())]
    for piece in Piece.objects.all():
        pages += [f"/pieces/{piece.pk}/edit/", f"/pieces/{piece.pk}/bars/0/"]
    for plan in Plan.objects.all():
        pages.append(f"/plans/{plan.pk}/steps/")
        if plan.student_id:
            pages += [f"/plans/{plan.pk}/", f"/plans/{plan.pk}/progress/"]
    for student in Student.objects.all():
        pages += [f"/students/{student.pk}/lesson/", f"/students/{student.pk}/week/"]
    pages += [f"/takes/{take.pk}/" for take in Take.objects.all()]
    if "no-pages" in sys.argv:
        pages = ["/"]
    found = {
        "binned": [[one.what, one.students] for one in Binned.objects.order_by("pk")],
        "students": list(Student.objects.values_list("pk", flat=True)),
        "takes": [take.strokes for take in Take.objects.all()],
        "rows": {model.__name__: model.objects.count() for model in models},
        "pages": {page: browser.get(page).status_code for page in pages},
        "standing": list(
            StepStanding.objects.filter(held__isnull=False).values_list("step__name", "held")
        ),
        "gates": sorted(Plan.objects.values_list("gate_kind", flat=True).distinct()),
        "schools": sorted(Plan.objects.values_list("school", flat=True).distinct()),
    }
    print(json.dumps(found))


if __name__ == "__main__":
    main()
