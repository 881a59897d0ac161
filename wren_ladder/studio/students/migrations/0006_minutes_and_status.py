"""Minutes belong to the student, not to each of their plans; a student can be paused or have
left; what is logged at home may be kept without earning rungs."""

import django.core.validators
from django.db import migrations, models

GRADES = [(0, "before 1"), *((n, str(n)) for n in range(1, 9))]


class Migration(migrations.Migration):
    dependencies = [("students", "0005_report_words")]

    operations = [
        migrations.AddField(
            "student",
            "status",
            models.CharField(
                choices=[("here", "here"), ("paused", "paused"), ("left", "left")],
                default="here",
                editable=False,
                max_length=8,
            ),
        ),
        migrations.AlterField(
            "student", "grade", models.PositiveSmallIntegerField(choices=GRADES, default=1)
        ),
        migrations.AddField(
            "student",
            "lesson_minutes",
            models.PositiveSmallIntegerField(
                "minutes of a lesson",
                default=30,
                validators=[
                    django.core.validators.MinValueValidator(5),
                    django.core.validators.MaxValueValidator(240),
                ],
            ),
        ),
        migrations.AddField(
            "student",
            "home_days",
            models.PositiveSmallIntegerField(
                "days a week at home",
                default=5,
                validators=[django.core.validators.MaxValueValidator(7)],
            ),
        ),
        migrations.AddField(
            "student",
            "home_minutes",
            models.PositiveSmallIntegerField(
                "minutes a day at home",
                default=15,
                validators=[django.core.validators.MaxValueValidator(240)],
            ),
        ),
        migrations.AddField("student", "raised", models.DateField(editable=False, null=True)),
        # What students of an older studio logged at home has earned their rungs.
        migrations.AddField(
            "student",
            "home_earns",
            models.BooleanField("what is logged at home earns rungs", default=True),
        ),
        migrations.AlterField(
            "student",
            "home_earns",
            models.BooleanField("what is logged at home earns rungs", default=False),
        ),
    ]
