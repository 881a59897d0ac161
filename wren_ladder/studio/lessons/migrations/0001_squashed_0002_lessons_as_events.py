import django.core.validators
import django.db.models.deletion
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ("lessons", "0001_lessons"),
        ("lessons", "0002_lessons_as_events"),
    ]

    initial = True

    dependencies = [
        ('students', '0001_squashed_0009_second_teacher'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='CalendarAddress',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ('owner', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='calendar_address', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='Period',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('term', 'term'), ('holiday', 'holiday')], default='holiday', max_length=8)),
                ('name', models.CharField(max_length=60)),
                ('first', models.DateField(verbose_name='first day')),
                ('last', models.DateField(verbose_name='last day')),
                ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='periods', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['first'],
            },
        ),
        migrations.CreateModel(
            name='Lesson',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('day', models.DateField()),
                ('time', models.TimeField(blank=True, null=True)),
                ('minutes', models.PositiveSmallIntegerField(blank=True, null=True, validators=[django.core.validators.MinValueValidator(5), django.core.validators.MaxValueValidator(480)])),
                ('state', models.CharField(choices=[('given', 'given'), ('planned', 'planned'), ('cancelled', 'cancelled'), ('ill', 'ill'), ('missed', 'did not come')], default='given', max_length=10)),
                ('by', models.CharField(blank=True, choices=[('student', 'the student'), ('teacher', 'the teacher')], max_length=8, verbose_name='cancelled or ill')),
                ('late', models.PositiveSmallIntegerField(default=0, validators=[django.core.validators.MaxValueValidator(120)], verbose_name='minutes late')),
                ('instead_of', models.DateField(blank=True, null=True, verbose_name='instead of the lesson on')),
                ('company', models.UUIDField(editable=False, null=True)),
                ('practised', models.CharField(blank=True, choices=[('yes', 'practised as set'), ('some', 'practised some of it'), ('no', 'did not practise')], max_length=4, verbose_name='since the lesson before')),
                ('note', models.TextField(blank=True, max_length=2000, verbose_name='private note')),
                ('message', models.TextField(blank=True, max_length=500, verbose_name='message to the student')),
                ('for_parents', models.CharField(blank=True, max_length=300, verbose_name='line for the parent')),
                ('did', models.JSONField(default=list)),
                ('was_set', models.JSONField(default=list)),
                ('week', models.JSONField(default=list)),
                ('student', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='lessons', to='students.student')),
            ],
            options={
                'ordering': ['-day'],
                'constraints': [models.UniqueConstraint(fields=('student', 'day'), name='one_lesson_a_day')],
            },
        ),
    ]
