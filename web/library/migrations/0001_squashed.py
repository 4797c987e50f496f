import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('library', '0001_own_and_hidden_tasks'), ('library', '0002_rungs_have_codes'), ('library', '0003_own_material')]

    initial = True

    dependencies = [
        ('clinic', '0001_squashed'),
        ('pghistory', '0007_auto_20250421_0444'),
    ]

    operations = [
        migrations.CreateModel(
            name='ClinicTask',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('key', models.CharField(max_length=60)),
                ('family', models.CharField(max_length=1)),
                ('adapted_from', models.CharField(blank=True, max_length=60)),
                ('content', models.JSONField()),
                ('changed_at', models.DateTimeField()),
                ('changed_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('clinic', 'key'), name='clinic_task_key_once')],
            },
        ),
        migrations.CreateModel(
            name='HiddenTask',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('key', models.CharField(max_length=60)),
                ('hidden', models.BooleanField(default=True)),
                ('changed_at', models.DateTimeField()),
                ('changed_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('clinic', 'key'), name='hidden_task_once')],
            },
        ),
        migrations.CreateModel(
            name='OwnMaterial',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('sort', models.CharField(max_length=30, verbose_name='sort')),
                ('name', models.CharField(max_length=60, verbose_name='name')),
                ('level', models.PositiveSmallIntegerField(verbose_name='level')),
                ('lines', models.JSONField()),
                ('at', models.DateTimeField()),
                ('taken_away_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(('level__range', (1, 3))), name='material_level')],
            },
        ),
        migrations.CreateModel(
            name='ClinicTaskEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('key', models.CharField(max_length=60)),
                ('family', models.CharField(max_length=1)),
                ('adapted_from', models.CharField(blank=True, max_length=60)),
                ('content', models.JSONField()),
                ('changed_at', models.DateTimeField()),
                ('changed_by', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='library.clinictask')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='HiddenTaskEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('key', models.CharField(max_length=60)),
                ('hidden', models.BooleanField(default=True)),
                ('changed_at', models.DateTimeField()),
                ('changed_by', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='library.hiddentask')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='OwnMaterialEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('sort', models.CharField(max_length=30, verbose_name='sort')),
                ('name', models.CharField(max_length=60, verbose_name='name')),
                ('level', models.PositiveSmallIntegerField(verbose_name='level')),
                ('lines', models.JSONField()),
                ('at', models.DateTimeField()),
                ('taken_away_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='library.ownmaterial')),
            ],
            options={
                'abstract': False,
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='clinictask',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "library_clinictaskevent" ("adapted_from", "changed_at", "changed_by_id", "clinic_id", "content", "family", "id", "key", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id") VALUES (NEW."adapted_from", NEW."changed_at", NEW."changed_by_id", NEW."clinic_id", NEW."content", NEW."family", NEW."id", NEW."key", _pgh_attach_context(), NOW(), \'insert\', NEW."id"); RETURN NULL;', hash='67ccf58d3d21881e49c2a197590153b9fa2f652c', operation='INSERT', pgid='pgtrigger_insert_insert_bb629', table='library_clinictask', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='clinictask',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "library_clinictaskevent" ("adapted_from", "changed_at", "changed_by_id", "clinic_id", "content", "family", "id", "key", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id") VALUES (NEW."adapted_from", NEW."changed_at", NEW."changed_by_id", NEW."clinic_id", NEW."content", NEW."family", NEW."id", NEW."key", _pgh_attach_context(), NOW(), \'update\', NEW."id"); RETURN NULL;', hash='86637ef65583942d93ed7176fab6de79a03f6637', operation='UPDATE', pgid='pgtrigger_update_update_fc9a7', table='library_clinictask', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='hiddentask',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "library_hiddentaskevent" ("changed_at", "changed_by_id", "clinic_id", "hidden", "id", "key", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id") VALUES (NEW."changed_at", NEW."changed_by_id", NEW."clinic_id", NEW."hidden", NEW."id", NEW."key", _pgh_attach_context(), NOW(), \'insert\', NEW."id"); RETURN NULL;', hash='6812d4d7413547c81ab9274c4026a865c674e9c6', operation='INSERT', pgid='pgtrigger_insert_insert_a4c4d', table='library_hiddentask', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='hiddentask',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "library_hiddentaskevent" ("changed_at", "changed_by_id", "clinic_id", "hidden", "id", "key", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id") VALUES (NEW."changed_at", NEW."changed_by_id", NEW."clinic_id", NEW."hidden", NEW."id", NEW."key", _pgh_attach_context(), NOW(), \'update\', NEW."id"); RETURN NULL;', hash='420ac6df8ebd62a1c68dc6e5971c79253b7b290e', operation='UPDATE', pgid='pgtrigger_update_update_72de7', table='library_hiddentask', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='ownmaterial',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "library_ownmaterialevent" ("at", "by_id", "clinic_id", "id", "level", "lines", "name", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "sort", "taken_away_at") VALUES (NEW."at", NEW."by_id", NEW."clinic_id", NEW."id", NEW."level", NEW."lines", NEW."name", _pgh_attach_context(), NOW(), \'insert\', NEW."id", NEW."sort", NEW."taken_away_at"); RETURN NULL;', hash='cc3925b16c687991d3566edb9abe35eb5ea3b5d5', operation='INSERT', pgid='pgtrigger_insert_insert_5dbc3', table='library_ownmaterial', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='ownmaterial',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "library_ownmaterialevent" ("at", "by_id", "clinic_id", "id", "level", "lines", "name", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "sort", "taken_away_at") VALUES (NEW."at", NEW."by_id", NEW."clinic_id", NEW."id", NEW."level", NEW."lines", NEW."name", _pgh_attach_context(), NOW(), \'update\', NEW."id", NEW."sort", NEW."taken_away_at"); RETURN NULL;', hash='f5afea1270709778486286e69b25e503933691ae', operation='UPDATE', pgid='pgtrigger_update_update_42378', table='library_ownmaterial', when='AFTER')),
        ),
    ]
