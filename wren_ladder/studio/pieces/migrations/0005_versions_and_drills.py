import django.db.models.deletion
from django.db import migrations, models

DRILLS_FOR = "Drills for "


def link_drills(apps, schema_editor):
    """Drills were known by their title; the student whose plan they have owns them."""
    Piece = apps.get_model("pieces", "Piece")
    Student = apps.get_model("students", "Student")
    for piece in Piece.objects.filter(title__startswith=DRILLS_FOR):
        name = piece.title.removeprefix(DRILLS_FOR)
        student = Student.objects.filter(owner_id=piece.owner_id, name=name).first()
        taken = student and Piece.objects.filter(drills_of=student).exists()
        if student and not taken and _all_are_drills(apps, piece, student):
            piece.drills_of = student
            piece.save(update_fields=["drills_of"])


def _all_are_drills(apps, piece, student):
    """A piece of the teacher's own that is called so is climbed by others, or by nobody."""
    plans = apps.get_model("plans", "Plan").objects.filter(piece=piece)
    return [plan.student_id for plan in plans] == [student.pk]


class Migration(migrations.Migration):

    dependencies = [
        ("pieces", "0004_imports"),
        ("students", "0004_versions"),
        ("plans", "0005_plan_snapshots"),
    ]

    operations = [
        migrations.AddField(
            "piece", "version", models.PositiveIntegerField(default=1, editable=False)
        ),
        migrations.AddField(
            "draft", "version", models.PositiveIntegerField(default=1, editable=False)
        ),
        migrations.AddField(
            "piece",
            "drills_of",
            models.OneToOneField(
                editable=False,
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="drills",
                to="students.student",
            ),
        ),
        migrations.RunPython(link_drills, migrations.RunPython.noop),
    ]
