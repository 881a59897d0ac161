"""Open the studio's database as a newly installed version does; prints what it found.

Run by itself, for a database of its own: ``python -m tests.studio.open_database``.
"""

import json
import os

os.environ["DJANGO_SETTINGS_MODULE"] = "wren_ladder.studio.settings"


def main() -> None:
    import django

    django.setup()
    from django.conf import settings
    from django.contrib.auth.models import User
    from django.core.management import call_command
    from django.test import Client

    from wren_ladder.studio.bin.models import Binned
    from wren_ladder.studio.changes.bin import put_back
    from wren_ladder.studio.climb.models import (
        Attempt,
        HeldChange,
        HomeMinutes,
        StepStanding,
        Take,
    )
    from wren_ladder.studio.climb.standings import catch_up
    from wren_ladder.studio.lessons.models import Lesson
    from wren_ladder.studio.pieces.models import Piece
    from wren_ladder.studio.plans.models import Plan, Step
    from wren_ladder.studio.students.models import Student

    settings.ALLOWED_HOSTS = ["*"]
    call_command("migrate", verbosity=0)
    catch_up()
    models = (Student, Piece, Plan, Step, Attempt, Take, HomeMinutes, Lesson)
    browser = Client()
    browser.force_login(User.objects.first())
    pages = ["/", "/pieces/", "/students/", "/teaching/", "/lessons/", "/bin/"]
    for student in Student.objects.all()[:2]:
        here = student.get_absolute_url()
        pages += [here, f"{here}lesson/", f"{here}week/"]
        for plan in student.plans.all()[:2]:
            pages += [f"/plans/{plan.pk}/{page}" for page in ("", "steps/", "progress/")]
    for piece in Piece.objects.all()[:3]:
        here = piece.get_absolute_url()
        pages += [here, f"{here}edit/", f"{here}bars/0/"]
    pages += [f"/takes/{take.pk}/" for take in Take.objects.all()[:2]]
    found = {
        "rows": {model.__name__: model.objects.count() for model in models},
        "pages": {page: browser.get(page).status_code for page in pages},
        "held": list(
            StepStanding.objects.filter(step__dropped=False).values_list("step", "held")
        ),
        "changed": list(HeldChange.objects.values_list("step", "before", "after")),
        "binned": [[one.what, one.students] for one in Binned.objects.order_by("pk")],
        "students": dict(Student.objects.values_list("name", "pk")),
    }
    # The last that was deleted stands on what was deleted before it.
    found["left_out"] = [put_back(one) for one in Binned.objects.order_by("-pk")]
    found["with_binned"] = {model.__name__: model.objects.count() for model in models}
    print(json.dumps(found))


if __name__ == "__main__":
    main()
