from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("students", "0003_the_climb")]

    operations = [
        migrations.AddField(
            "student", "version", models.PositiveIntegerField(default=1, editable=False)
        ),
    ]
