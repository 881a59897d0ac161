"""A student's minutes were kept with each plan; they have what the most generous one had."""

from django.db import migrations, models

MINUTES = ("lesson_minutes", "home_days", "home_minutes")


def give_to_students(apps, schema_editor):
    students = apps.get_model("students", "Student")
    for student in students.objects.prefetch_related("plans"):
        plans = list(student.plans.all())
        if plans:
            for name in MINUTES:
                setattr(student, name, max(getattr(plan, name) for plan in plans))
            raised = [plan.raised for plan in plans if plan.raised]
            student.raised = max(raised, default=None)
            student.save(update_fields=[*MINUTES, "raised"])


class Migration(migrations.Migration):
    dependencies = [
        ("plans", "0008_figures_by_themselves"),
        ("students", "0006_minutes_and_status"),
        ("climb", "0006_logged_minutes"),  # gives the name of the field free
    ]

    operations = [
        migrations.RunPython(give_to_students, migrations.RunPython.noop),
        *(migrations.RemoveField("plan", name) for name in (*MINUTES, "raised")),
        migrations.AddField(
            "plan",
            "status",
            models.CharField(
                choices=[
                    ("climbing", "climbing"),
                    ("paused", "paused"),
                    ("finished", "finished"),
                    ("performed", "performed"),
                    ("passed", "passed in an exam"),
                    ("dropped", "dropped"),
                ],
                default="climbing",
                editable=False,
                max_length=12,
            ),
        ),
        migrations.AddField("plan", "since", models.DateField(editable=False, null=True)),
    ]
