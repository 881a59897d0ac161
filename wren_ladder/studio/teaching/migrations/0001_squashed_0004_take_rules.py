import django.core.validators
import django.db.models.deletion
import wren_ladder.drumming.takes.limits
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ("teaching", "0001_initial"),
        ("teaching", "0002_weights"),
        ("teaching", "0003_codes"),
        ("teaching", "0004_take_rules"),
    ]

    initial = True

    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='TeachingStyle',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('choices', models.JSONField(default=dict)),
                ('words', models.JSONField(default=list)),
                ('weights', models.JSONField(default=dict)),
                ('syllabus', models.JSONField(default=dict)),
                ('owner', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='teaching_style', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='TakeRule',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('grade', models.PositiveSmallIntegerField(validators=[django.core.validators.MaxValueValidator(8)])),
                ('slips', models.PositiveSmallIntegerField(validators=[django.core.validators.MaxValueValidator(50)])),
                ('spread', models.PositiveSmallIntegerField(validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(200)])),
                ('lean', models.PositiveSmallIntegerField(validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(200)])),
                ('unit', models.CharField(choices=[('ms', 'milliseconds'), ('share', 'per cent of the subdivision')], default=wren_ladder.drumming.takes.limits.Unit['MILLISECONDS'], max_length=5)),
                ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='take_rules', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['grade'],
                'constraints': [models.UniqueConstraint(fields=('owner', 'grade'), name='one_take_rule_a_grade')],
            },
        ),
    ]
