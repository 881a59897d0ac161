import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("plans", "0004_the_climb")]

    operations = [
        migrations.RenameModel("Basis", "PlanSnapshot"),
        migrations.AlterField(
            "plansnapshot",
            "plan",
            models.OneToOneField(
                on_delete=django.db.models.deletion.CASCADE,
                related_name="snapshot",
                to="plans.plan",
            ),
        ),
    ]
