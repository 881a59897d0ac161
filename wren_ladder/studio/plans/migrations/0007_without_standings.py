from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [("plans", "0006_codes"), ("climb", "0004_standings")]

    operations = [
        migrations.RemoveField("plan", "ready"),
        migrations.RemoveField("plan", "slowest"),
        migrations.RemoveField("plan", "waiting"),
        migrations.RemoveField("plan", "held_by"),
        migrations.RemoveField("plan", "last_day"),
        migrations.RemoveField("plan", "foretold"),
        migrations.RemoveField("plan", "gain"),
        migrations.RemoveField("plan", "gain_days"),
        migrations.RemoveField("step", "held"),
        migrations.RemoveField("step", "next_tempo"),
        migrations.RemoveField("step", "reason"),
        migrations.RemoveField("step", "falling"),
        migrations.RemoveField("step", "last_day"),
    ]
