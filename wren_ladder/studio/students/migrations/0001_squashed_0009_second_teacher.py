import django.core.validators
import django.db.models.deletion
import wren_ladder.drumming.practice.hearing
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ("students", "0001_initial"),
        ("students", "0002_student_open_handed"),
        ("students", "0003_the_climb"),
        ("students", "0004_versions"),
        ("students", "0005_report_words"),
        ("students", "0006_minutes_and_status"),
        ("students", "0007_to_try"),
        ("students", "0008_records_at_home"),
        ("students", "0009_second_teacher"),
    ]

    initial = True

    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Student',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('status', models.CharField(choices=[('here', 'here'), ('paused', 'paused'), ('left', 'left')], default='here', editable=False, max_length=8)),
                ('grade', models.PositiveSmallIntegerField(choices=[(0, 'before 1'), (1, '1'), (2, '2'), (3, '3'), (4, '4'), (5, '5'), (6, '6'), (7, '7'), (8, '8')], default=1)),
                ('lead', models.CharField(choices=[('R', 'right-handed'), ('L', 'left-handed')], default='R', max_length=1, verbose_name='leading hand')),
                ('open_handed', models.BooleanField(default=False, verbose_name='keeps the hat open-handed')),
                ('lesson_day', models.PositiveSmallIntegerField(blank=True, choices=[(0, 'Monday'), (1, 'Tuesday'), (2, 'Wednesday'), (3, 'Thursday'), (4, 'Friday'), (5, 'Saturday'), (6, 'Sunday')], null=True)),
                ('lesson_time', models.TimeField(blank=True, null=True)),
                ('lesson_minutes', models.PositiveSmallIntegerField(default=30, validators=[django.core.validators.MinValueValidator(5), django.core.validators.MaxValueValidator(240)], verbose_name='minutes of a lesson')),
                ('home_days', models.PositiveSmallIntegerField(default=5, validators=[django.core.validators.MaxValueValidator(7)], verbose_name='days a week at home')),
                ('home_minutes', models.PositiveSmallIntegerField(default=15, validators=[django.core.validators.MaxValueValidator(240)], verbose_name='minutes a day at home')),
                ('raised', models.DateField(editable=False, null=True)),
                ('home_earns', models.BooleanField(default=False, verbose_name='what is logged at home earns rungs')),
                ('records_at_home', models.BooleanField(default=False, verbose_name='may record takes on the private link')),
                ('exam_date', models.DateField(blank=True, null=True)),
                ('buffer', models.PositiveSmallIntegerField(default=14, validators=[django.core.validators.MaxValueValidator(120)], verbose_name='days of full runs before the exam')),
                ('level', models.PositiveSmallIntegerField(default=100, validators=[django.core.validators.MinValueValidator(60), django.core.validators.MaxValueValidator(130)], verbose_name='sound level at the kit, dBA')),
                ('rating', models.PositiveSmallIntegerField(default=0, validators=[django.core.validators.MaxValueValidator(40)], verbose_name='hearing protection, dB')),
                ('hearing_rule', models.CharField(choices=[('NIOSH', 'NIOSH'), ('OSHA', 'OSHA')], default=wren_ladder.drumming.practice.hearing.HearingRule['NIOSH'], max_length=8)),
                ('link_key', models.CharField(blank=True, editable=False, max_length=32)),
                ('notes', models.TextField(blank=True, max_length=4000)),
                ('report_words', models.TextField(blank=True, max_length=2000, verbose_name='your words to the parents')),
                ('trial', models.BooleanField(default=False, editable=False)),
                ('version', models.PositiveIntegerField(default=1, editable=False)),
                ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='students', to=settings.AUTH_USER_MODEL)),
                ('second_teacher', models.ForeignKey(editable=False, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['name'],
                'constraints': [models.UniqueConstraint(fields=('owner', 'name'), name='student_once_per_teacher')],
            },
        ),
    ]
