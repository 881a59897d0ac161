import django.core.validators
import django.db.models.deletion
import wren_ladder.studio.plans.packed_bars
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ("plans", "0001_initial"),
        ("plans", "0002_breakdown"),
        ("plans", "0003_ladders_and_gates"),
        ("plans", "0004_the_climb"),
        ("plans", "0005_plan_snapshots"),
        ("plans", "0006_codes"),
        ("plans", "0007_without_standings"),
        ("plans", "0008_figures_by_themselves"),
        ("plans", "0009_minutes_to_students"),
        ("plans", "0010_by_when"),
        ("plans", "0011_snapshots_packed"),
    ]

    initial = True

    dependencies = [
        ('pieces', '0001_squashed_0012_shared'),
        ('students', '0001_squashed_0009_second_teacher'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Plan',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('target', models.PositiveSmallIntegerField(validators=[django.core.validators.MinValueValidator(20), django.core.validators.MaxValueValidator(400)], verbose_name='target tempo')),
                ('start', models.PositiveSmallIntegerField(validators=[django.core.validators.MinValueValidator(20), django.core.validators.MaxValueValidator(400)], verbose_name='start tempo')),
                ('ladder', models.CharField(choices=[('step', 'step'), ('percent', 'percent'), ('marks', 'marks'), ('own', 'own list')], default='step', max_length=12, verbose_name='ladder')),
                ('own_rungs', models.CharField(blank=True, max_length=200, verbose_name='tempos of your own list')),
                ('rung', models.PositiveSmallIntegerField(default=5, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(40)], verbose_name='rung')),
                ('clean_bars', models.PositiveSmallIntegerField(default=32, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(256)], verbose_name='clean bars in a row that earn a rung')),
                ('gate_kind', models.CharField(choices=[('row', 'clean bars in a row'), ('tries', 'clean tries out of tries'), ('days', 'in a row, on different days')], default='row', max_length=32, verbose_name='what earns a rung')),
                ('gate_clean', models.PositiveSmallIntegerField(default=3, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(20)], verbose_name='clean tries')),
                ('gate_tries', models.PositiveSmallIntegerField(default=4, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(20)], verbose_name='out of tries')),
                ('gate_days', models.PositiveSmallIntegerField(default=2, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(7)], verbose_name='different days')),
                ('gate_failures', models.PositiveSmallIntegerField(default=2, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(9)], verbose_name='failed tries in a row')),
                ('gate_drop', models.PositiveSmallIntegerField(default=1, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(5)], verbose_name='rungs to go down then')),
                ('tolerance', models.PositiveSmallIntegerField(default=0, validators=[django.core.validators.MaxValueValidator(40)], verbose_name='BPM below the target that will do')),
                ('school', models.CharField(choices=[('bar', 'bar school'), ('phrase', 'phrase school'), ('layer', 'layer school')], default='bar', max_length=16)),
                ('due', models.DateField(blank=True, null=True, verbose_name='by when')),
                ('for_exam', models.BooleanField(default=True, verbose_name='is for the exam')),
                ('status', models.CharField(choices=[('climbing', 'climbing'), ('paused', 'paused'), ('finished', 'finished'), ('performed', 'performed'), ('passed', 'passed in an exam'), ('dropped', 'dropped')], default='climbing', editable=False, max_length=12)),
                ('since', models.DateField(editable=False, null=True)),
                ('made_of', models.CharField(default='', editable=False, max_length=40)),
                ('version', models.PositiveIntegerField(default=1, editable=False)),
                ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='plans', to=settings.AUTH_USER_MODEL)),
                ('piece', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='plans', to='pieces.piece')),
                ('student', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='plans', to='students.student')),
            ],
        ),
        migrations.CreateModel(
            name='PlanSnapshot',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('bars', wren_ladder.studio.plans.packed_bars.PackedBarsField(blank=True, default=list)),
                ('plan', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='snapshot', to='plans.plan')),
            ],
        ),
        migrations.CreateModel(
            name='Revision',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('day', models.DateField()),
                ('said', models.CharField(max_length=200)),
                ('lines', models.JSONField(default=list)),
                ('plan', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='revisions', to='plans.plan')),
            ],
            options={
                'ordering': ['-day', '-pk'],
            },
        ),
        migrations.CreateModel(
            name='Step',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('position', models.PositiveIntegerField()),
                ('kind', models.CharField(choices=[('figure', 'Figure'), ('notes', 'Notes'), ('half', 'Half'), ('layer', 'Layer'), ('bar', 'Bar'), ('on', 'On'), ('pair', 'Pair'), ('jump', 'Jump'), ('phrase', 'Phrase'), ('section', 'Section'), ('whole', 'Whole'), ('own', 'Own')], default='own', max_length=8)),
                ('part', models.CharField(blank=True, max_length=24)),
                ('name', models.CharField(max_length=80)),
                ('why', models.CharField(blank=True, max_length=300)),
                ('repeats', models.PositiveSmallIntegerField(default=4, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(64)])),
                ('gap', models.PositiveSmallIntegerField(default=0, validators=[django.core.validators.MaxValueValidator(4)], verbose_name='empty bars between tries')),
                ('watch', models.JSONField(default=list, editable=False)),
                ('rank', models.FloatField(default=0, editable=False)),
                ('by_hand', models.BooleanField(default=False, editable=False)),
                ('start', models.PositiveSmallIntegerField(blank=True, null=True, validators=[django.core.validators.MinValueValidator(20), django.core.validators.MaxValueValidator(400)], verbose_name='start tempo')),
                ('target', models.PositiveSmallIntegerField(blank=True, null=True, validators=[django.core.validators.MinValueValidator(20), django.core.validators.MaxValueValidator(400)], verbose_name='own target')),
                ('dropped', models.BooleanField(default=False)),
                ('first', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='pieces.barrow')),
                ('last', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='pieces.barrow')),
                ('plan', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='steps', to='plans.plan')),
            ],
            options={
                'ordering': ['position', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='StudentBar',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('data', models.JSONField()),
                ('page', models.JSONField()),
                ('bar', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='own_versions', to='pieces.barrow')),
                ('student', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='own_bars', to='students.student')),
            ],
        ),
        migrations.CreateModel(
            name='OwnRank',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('rank', models.FloatField(validators=[django.core.validators.MinValueValidator(0), django.core.validators.MaxValueValidator(50)])),
                ('bar', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='own_ranks', to='pieces.barrow')),
                ('student', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='own_ranks', to='students.student')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('bar', 'student'), name='one_rank_a_student'), models.UniqueConstraint(condition=models.Q(('student', None)), fields=('bar',), name='one_rank_of_the_piece')],
            },
        ),
        migrations.AddConstraint(
            model_name='plan',
            constraint=models.UniqueConstraint(fields=('piece', 'student'), name='one_plan_per_student'),
        ),
        migrations.AddConstraint(
            model_name='plan',
            constraint=models.UniqueConstraint(condition=models.Q(('student', None)), fields=('piece',), name='one_model_plan_per_piece'),
        ),
        migrations.AddConstraint(
            model_name='studentbar',
            constraint=models.UniqueConstraint(fields=('student', 'bar'), name='one_version_a_student'),
        ),
    ]
