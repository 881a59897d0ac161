import django.core.validators
import django.db.models.deletion
import wren_ladder.studio.pieces.models
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ("pieces", "0001_initial"),
        ("pieces", "0002_alter_piece_meter"),
        ("pieces", "0003_drafts"),
        ("pieces", "0004_imports"),
        ("pieces", "0005_versions_and_drills"),
        ("pieces", "0006_page_that_wrote"),
        ("pieces", "0007_import_offers"),
        ("pieces", "0008_typed_text"),
        ("pieces", "0009_to_try"),
        ("pieces", "0010_exercises"),
        ("pieces", "0011_recordings"),
        ("pieces", "0012_shared"),
    ]

    initial = True

    dependencies = [
        ('students', '0001_squashed_0009_second_teacher'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Import',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=200)),
                ('data', models.BinaryField()),
                ('grade', models.PositiveSmallIntegerField(blank=True, null=True, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(8)])),
                ('parts', models.JSONField(default=list)),
                ('drums', models.JSONField(default=dict)),
                ('taken', models.JSONField(default=list)),
                ('changed', models.DateTimeField(auto_now=True)),
                ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='imports', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-changed'],
            },
        ),
        migrations.CreateModel(
            name='Piece',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('title', models.CharField(max_length=120)),
                ('grade', models.PositiveSmallIntegerField(blank=True, null=True, validators=[django.core.validators.MinValueValidator(1), django.core.validators.MaxValueValidator(8)])),
                ('trial', models.BooleanField(default=False, editable=False)),
                ('kind', models.CharField(choices=[('piece', 'piece'), ('groove', 'groove'), ('fill', 'fill'), ('phrase', 'phrase'), ('hands', 'hands'), ('feet', 'feet'), ('reading', 'reading'), ('warm-up', 'warm-up')], default='piece', editable=False, max_length=8)),
                ('made_of', models.JSONField(default=dict, editable=False)),
                ('notes', models.TextField(blank=True, max_length=4000)),
                ('shared', models.BooleanField(default=False, editable=False)),
                ('version', models.PositiveIntegerField(default=1, editable=False)),
                ('saved_by', models.UUIDField(editable=False, null=True)),
                ('import_report', models.JSONField(default=list, editable=False)),
                ('typed', models.TextField(blank=True, editable=False)),
                ('changed', models.DateTimeField(auto_now=True)),
                ('fingerprint', models.CharField(default='', editable=False, max_length=40)),
                ('bar_count', models.PositiveIntegerField(default=0, editable=False)),
                ('seconds', models.FloatField(default=0, editable=False)),
                ('meter', models.CharField(default='', editable=False, max_length=40)),
                ('tempo_mark', models.CharField(default='crotchet = 60', editable=False, max_length=40)),
                ('drills_of', models.OneToOneField(editable=False, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='drills', to='students.student')),
                ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pieces', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['title', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='Draft',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('title', models.CharField(blank=True, max_length=120)),
                ('grade', models.CharField(blank=True, max_length=8)),
                ('notes', models.TextField(blank=True)),
                ('bars', models.JSONField()),
                ('text', models.TextField(blank=True)),
                ('lines', models.TextField(blank=True)),
                ('lines_bar', models.PositiveIntegerField(null=True)),
                ('done', models.PositiveIntegerField(default=0)),
                ('base', models.CharField(blank=True, max_length=40)),
                ('version', models.PositiveIntegerField(default=1, editable=False)),
                ('writer', models.UUIDField(editable=False, null=True)),
                ('changed', models.DateTimeField(auto_now=True)),
                ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='drafts', to=settings.AUTH_USER_MODEL)),
                ('piece', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='drafts', to='pieces.piece')),
            ],
        ),
        migrations.CreateModel(
            name='BarRow',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('position', models.PositiveIntegerField()),
                ('number', models.CharField(max_length=12)),
                ('data', models.JSONField()),
                ('piece', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='bars', to='pieces.piece')),
            ],
            options={
                'ordering': ['position'],
            },
        ),
        migrations.CreateModel(
            name='Recording',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('file', models.FileField(upload_to=wren_ladder.studio.pieces.models._unguessed)),
                ('name', models.CharField(max_length=120)),
                ('content_type', models.CharField(max_length=20)),
                ('size', models.PositiveIntegerField()),
                ('anchors', models.JSONField(default=list)),
                ('piece', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='recording', to='pieces.piece')),
            ],
        ),
        migrations.CreateModel(
            name='Edit',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('position', models.PositiveIntegerField()),
                ('label', models.CharField(max_length=80)),
                ('first', models.PositiveIntegerField()),
                ('removed', models.JSONField()),
                ('added', models.JSONField()),
                ('draft', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='edits', to='pieces.draft')),
            ],
            options={
                'ordering': ['position'],
                'constraints': [models.UniqueConstraint(fields=('draft', 'position'), name='one_edit_a_place')],
            },
        ),
        migrations.AddConstraint(
            model_name='draft',
            constraint=models.UniqueConstraint(fields=('owner', 'piece'), name='one_draft_per_piece'),
        ),
        migrations.AddConstraint(
            model_name='draft',
            constraint=models.UniqueConstraint(condition=models.Q(('piece', None)), fields=('owner',), name='one_new_piece'),
        ),
    ]
