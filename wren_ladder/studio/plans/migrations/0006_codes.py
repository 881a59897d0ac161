from django.db import migrations, models

SCHOOLS = {"bar school": "bar", "phrase school": "phrase", "layer school": "layer"}
GATES = {
    "clean bars in a row": "row",
    "clean tries out of tries": "tries",
    "in a row, on different days": "days",
}
LADDERS = {"own list": "own"}
PARTS = {
    "first half": "first",
    "second half": "second",
    "hands alone": "hands",
    "plain rhythm": "rhythm",
    "cymbal pulse": "pulse",
    "+ feet": "feet",
    "+ backbeat, plain": "backbeat",
    "+ accents": "accents",
    "+ flams": "flams",
    "+ drags": "drags",
    "+ roll skeletons": "roll-skeletons",
    "everything": "whole",
}
CHANGES = {"left out": "left-out"}


def to_codes(apps, schema_editor):
    Plan, Step = apps.get_model("plans", "Plan"), apps.get_model("plans", "Step")
    for field, codes in (("school", SCHOOLS), ("gate_kind", GATES), ("ladder", LADDERS)):
        for label, code in codes.items():
            Plan.objects.filter(**{field: label}).update(**{field: code})
    for label, code in PARTS.items():
        Step.objects.filter(part=label).update(part=code)
    for revision in apps.get_model("plans", "Revision").objects.all():
        revision.lines = [
            [CHANGES.get(change, change), *rest] for change, *rest in revision.lines
        ]
        revision.save(update_fields=["lines"])


class Migration(migrations.Migration):

    dependencies = [("plans", "0005_plan_snapshots"), ("pieces", "0005_versions_and_drills")]

    operations = [
        migrations.AddField(
            "plan", "version", models.PositiveIntegerField(default=1, editable=False)
        ),
        migrations.RenameField("plan", "gate", "gate_kind"),
        migrations.AlterField(
            "plan",
            "gate_kind",
            models.CharField(
                choices=[
                    ("row", "clean bars in a row"),
                    ("tries", "clean tries out of tries"),
                    ("days", "in a row, on different days"),
                ],
                default="row",
                max_length=32,
                verbose_name="what earns a rung",
            ),
        ),
        migrations.AlterField(
            "plan",
            "ladder",
            models.CharField(
                choices=[
                    ("step", "step"),
                    ("percent", "percent"),
                    ("marks", "marks"),
                    ("own", "own list"),
                ],
                default="step",
                max_length=12,
                verbose_name="ladder",
            ),
        ),
        migrations.AlterField(
            "plan",
            "school",
            models.CharField(
                choices=[
                    ("bar", "bar school"),
                    ("phrase", "phrase school"),
                    ("layer", "layer school"),
                ],
                default="bar",
                max_length=16,
            ),
        ),
        migrations.RunPython(to_codes, migrations.RunPython.noop),
    ]
