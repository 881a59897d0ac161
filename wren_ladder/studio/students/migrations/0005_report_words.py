from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("students", "0004_versions")]

    operations = [
        migrations.AddField(
            "student",
            "report_words",
            models.TextField("your words to the parents", blank=True, max_length=2000, default=""),
            preserve_default=False,
        ),
    ]
