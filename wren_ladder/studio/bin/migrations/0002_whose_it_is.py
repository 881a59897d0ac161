"""Every entry of the bin knows the students whose rows it holds."""

from django.db import migrations, models


def know_students(apps, schema_editor):
    """By the models of today: rows are read by name, whatever state the tables are in."""
    Binned = apps.get_model("bin", "Binned")
    from wren_ladder.studio.bin.whose import students_in

    for binned in Binned.objects.all():
        binned.students = students_in(binned.rows)
        binned.save(update_fields=["students"])


class Migration(migrations.Migration):

    dependencies = [
        ('bin', '0001_the_bin'),
        ("climb", "0001_squashed_0011_stuck"),
        ("lessons", "0001_squashed_0002_lessons_as_events"),
        ("students", "0001_squashed_0009_second_teacher"),
        ("plans", "0001_squashed_0011_snapshots_packed"),
        ("pieces", "0001_squashed_0012_shared"),
    ]

    operations = [
        migrations.AddField(
            model_name='binned',
            name='students',
            field=models.JSONField(default=list),
        ),
        migrations.AddField(
            model_name='binned',
            name='let_go',
            field=models.JSONField(default=list),
        ),
        migrations.RunPython(know_students, migrations.RunPython.noop),
    ]
