import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("climb", "0002_the_climb"), ("students", "0003_the_climb")]

    operations = [
        migrations.RenameModel("Practice", "HomeMinutes"),
        migrations.AlterField(
            "homeminutes",
            "student",
            models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE,
                related_name="home_minutes",
                to="students.student",
            ),
        ),
        migrations.RenameIndex(
            "attempt",
            old_name="practice_at_step_id_775eaa_idx",
            new_name="attempts_of_a_step_by_day",
        ),
        migrations.RenameIndex(
            "homeminutes",
            old_name="practice_pr_student_55c989_idx",
            new_name="home_minutes_by_day",
        ),
    ]
