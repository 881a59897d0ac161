import django.core.validators
import django.db.models.deletion
import wren_ladder.studio.climb.strokes_field
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ("climb", "0001_initial"),
        ("climb", "0002_the_climb"),
        ("climb", "0003_home_minutes"),
        ("climb", "0004_standings"),
        ("climb", "0005_gain_of_a_plain_bar"),
        ("climb", "0006_logged_minutes"),
        ("climb", "0007_takes"),
        ("climb", "0008_takes_kept_small"),
        ("climb", "0009_changes_noted"),
        ("climb", "0010_indexes_once"),
        ("climb", "0011_stuck"),
    ]

    initial = True

    dependencies = [
        ('plans', '0001_squashed_0011_snapshots_packed'),
        ('students', '0001_squashed_0009_second_teacher'),
    ]

    operations = [
        migrations.CreateModel(
            name='PlanStanding',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('ready', models.PositiveSmallIntegerField(null=True)),
                ('slowest', models.PositiveSmallIntegerField(null=True)),
                ('waiting', models.PositiveSmallIntegerField(default=0)),
                ('last_day', models.DateField(null=True)),
                ('stuck', models.CharField(default='', max_length=300)),
                ('forecast', models.JSONField(default=dict)),
                ('gain', models.FloatField(null=True)),
                ('gain_days', models.PositiveIntegerField(default=0)),
                ('changes', models.PositiveIntegerField(default=0)),
                ('worked_out', models.PositiveIntegerField(default=0)),
                ('held_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='plans.step')),
                ('plan', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='standing', to='plans.plan')),
            ],
        ),
        migrations.CreateModel(
            name='StepStanding',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('held', models.PositiveSmallIntegerField(null=True)),
                ('next_tempo', models.PositiveSmallIntegerField()),
                ('reason', models.CharField(max_length=200)),
                ('falling', models.BooleanField(default=False)),
                ('last_day', models.DateField(null=True)),
                ('step', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='standing', to='plans.step')),
            ],
        ),
        migrations.CreateModel(
            name='Take',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('day', models.DateField()),
                ('source', models.CharField(max_length=10)),
                ('where', models.CharField(choices=[('lesson', 'in the lesson'), ('home', 'at home'), ('file', 'from a file')], default='lesson', max_length=8)),
                ('tempo', models.PositiveSmallIntegerField(validators=[django.core.validators.MinValueValidator(20), django.core.validators.MaxValueValidator(400)])),
                ('passes', models.PositiveSmallIntegerField(validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(99)])),
                ('empty_bars', models.PositiveSmallIntegerField(default=0, validators=[django.core.validators.MaxValueValidator(4)])),
                ('latency', models.FloatField(default=0, validators=[django.core.validators.MinValueValidator(-1000), django.core.validators.MaxValueValidator(1000)])),
                ('strokes', wren_ladder.studio.climb.strokes_field.StrokesField(blank=True, default=list)),
                ('asked', models.CharField(blank=True, editable=False, max_length=40)),
                ('told', models.JSONField(blank=True, default=dict, editable=False)),
                ('step', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='takes', to='plans.step')),
            ],
            options={
                'ordering': ['-day', '-pk'],
            },
        ),
        migrations.CreateModel(
            name='Attempt',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('day', models.DateField()),
                ('tempo', models.PositiveSmallIntegerField(validators=[django.core.validators.MinValueValidator(20), django.core.validators.MaxValueValidator(400)])),
                ('was_clean', models.BooleanField()),
                ('passes', models.PositiveSmallIntegerField(default=1, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(99)])),
                ('note', models.CharField(blank=True, max_length=200)),
                ('where', models.CharField(choices=[('lesson', 'in the lesson'), ('home', 'at home'), ('file', 'from a file')], default='lesson', max_length=8)),
                ('key', models.UUIDField(editable=False, null=True, unique=True)),
                ('step', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='attempts', to='plans.step')),
                ('take', models.ForeignKey(editable=False, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='attempts', to='climb.take')),
            ],
            options={
                'ordering': ['day', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='HomeMinutes',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('day', models.DateField()),
                ('minutes', models.PositiveSmallIntegerField(validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(600)])),
                ('note', models.CharField(blank=True, max_length=200)),
                ('key', models.UUIDField(editable=False, null=True, unique=True)),
                ('student', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='logged_minutes', to='students.student')),
            ],
            options={
                'ordering': ['day', 'pk'],
                'indexes': [models.Index(fields=['student', 'day'], name='home_minutes_by_day')],
            },
        ),
        migrations.AddIndex(
            model_name='take',
            index=models.Index(fields=['step', '-day', '-id'], name='takes_of_a_step_by_day'),
        ),
        migrations.AddIndex(
            model_name='attempt',
            index=models.Index(fields=['step', 'day'], name='attempts_of_a_step_by_day'),
        ),
    ]
