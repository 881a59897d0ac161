from django.db import migrations

import wren_ladder.studio.plans.packed_bars


def pack(apps, schema_editor):
    """Bars were a text of JSON."""
    for one in apps.get_model("plans", "PlanSnapshot").objects.iterator(50):
        one.bars = one.written
        one.save(update_fields=["bars"])


class Migration(migrations.Migration):

    dependencies = [
        ('plans', '0010_by_when'),
    ]

    operations = [
        migrations.RenameField('plansnapshot', 'bars', 'written'),
        migrations.AddField(
            model_name='plansnapshot',
            name='bars',
            field=wren_ladder.studio.plans.packed_bars.PackedBarsField(blank=True, default=list),
        ),
        migrations.RunPython(pack, migrations.RunPython.noop),
        migrations.RemoveField('plansnapshot', 'written'),
    ]
