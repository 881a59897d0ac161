import django.db.models.deletion
from django.db import migrations, models

OF_A_STEP = ("held", "next_tempo", "reason", "falling", "last_day")
OF_A_PLAN = ("ready", "slowest", "waiting", "held_by_id", "last_day", "gain", "gain_days")


def move_standings(apps, schema_editor):
    """What was worked out and kept in the rows of plans and steps goes into rows of its own."""
    Plan, Step = apps.get_model("plans", "Plan"), apps.get_model("plans", "Step")
    PlanStanding = apps.get_model("climb", "PlanStanding")
    StepStanding = apps.get_model("climb", "StepStanding")
    start = dict(Plan.objects.values_list("pk", "start"))
    steps = []
    for step in Step.objects.all().iterator():
        fields = {name: getattr(step, name) for name in OF_A_STEP}
        fields["next_tempo"] = fields["next_tempo"] or step.start or start[step.plan_id]
        steps.append(StepStanding(step_id=step.pk, **fields))
    StepStanding.objects.bulk_create(steps, batch_size=1000)
    PlanStanding.objects.bulk_create(
        PlanStanding(
            plan_id=plan.pk,
            forecast=plan.foretold,
            **{name: getattr(plan, name) for name in OF_A_PLAN},
        )
        for plan in Plan.objects.all()
    )


class Migration(migrations.Migration):

    dependencies = [("climb", "0003_home_minutes"), ("plans", "0006_codes")]

    operations = [
        migrations.CreateModel(
            "StepStanding",
            [
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("held", models.PositiveSmallIntegerField(null=True)),
                ("next_tempo", models.PositiveSmallIntegerField()),
                ("reason", models.CharField(max_length=200)),
                ("falling", models.BooleanField(default=False)),
                ("last_day", models.DateField(null=True)),
                (
                    "step",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="standing",
                        to="plans.step",
                    ),
                ),
            ],
        ),
        migrations.CreateModel(
            "PlanStanding",
            [
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("ready", models.PositiveSmallIntegerField(null=True)),
                ("slowest", models.PositiveSmallIntegerField(null=True)),
                ("waiting", models.PositiveSmallIntegerField(default=0)),
                ("last_day", models.DateField(null=True)),
                ("forecast", models.JSONField(default=dict)),
                ("gain", models.FloatField(null=True)),
                ("gain_days", models.PositiveIntegerField(default=0)),
                (
                    "held_by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to="plans.step",
                    ),
                ),
                (
                    "plan",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="standing",
                        to="plans.plan",
                    ),
                ),
            ],
        ),
        migrations.RunPython(move_standings, migrations.RunPython.noop),
    ]
