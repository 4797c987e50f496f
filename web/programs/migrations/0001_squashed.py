import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('programs', '0001_initial'), ('programs', '0002_tried_tasks'), ('programs', '0003_routines'), ('programs', '0004_undone'), ('programs', '0005_templates'), ('programs', '0006_taken_in')]

    initial = True

    dependencies = [
        ('clients', '0001_squashed'),
        ('clinic', '0001_squashed'),
        ('pghistory', '0007_auto_20250421_0444'),
    ]

    operations = [
        migrations.CreateModel(
            name='Draft',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('content', models.JSONField()),
                ('revision', models.PositiveIntegerField(default=1)),
                ('base', models.JSONField(null=True)),
                ('past', models.JSONField(default=list)),
                ('future', models.JSONField(default=list)),
                ('changed_at', models.DateTimeField()),
                ('changed_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='ProgramTemplate',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('name', models.CharField(max_length=60)),
                ('content', models.JSONField()),
                ('at', models.DateTimeField()),
                ('taken_away_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.UniqueConstraint(condition=models.Q(('taken_away_at', None)), fields=('clinic', 'name'), name='template_name_once')],
            },
        ),
        migrations.CreateModel(
            name='ProgramVersion',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('number', models.PositiveIntegerField()),
                ('content', models.JSONField()),
                ('activated_at', models.DateTimeField()),
                ('active_from', models.DateField()),
                ('written_reason', models.CharField(blank=True, max_length=500)),
                ('taken_in_on', models.DateField(null=True)),
                ('activated_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('client', 'number'), name='version_number_once')],
            },
        ),
        migrations.CreateModel(
            name='TriedTask',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('task', models.CharField(max_length=60)),
                ('went', models.CharField(choices=[('better', 'better'), ('same', 'same'), ('worse', 'worse')], max_length=6)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='DraftEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('content', models.JSONField()),
                ('revision', models.PositiveIntegerField(default=1)),
                ('base', models.JSONField(null=True)),
                ('past', models.JSONField(default=list)),
                ('future', models.JSONField(default=list)),
                ('changed_at', models.DateTimeField()),
                ('changed_by', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='programs.draft')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='ProgramTemplateEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('name', models.CharField(max_length=60)),
                ('content', models.JSONField()),
                ('at', models.DateTimeField()),
                ('taken_away_at', models.DateTimeField(null=True)),
                ('by', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='programs.programtemplate')),
            ],
            options={
                'abstract': False,
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='draft',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "programs_draftevent" ("base", "changed_at", "changed_by_id", "client_id", "clinic_id", "content", "future", "id", "past", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "revision") VALUES (NEW."base", NEW."changed_at", NEW."changed_by_id", NEW."client_id", NEW."clinic_id", NEW."content", NEW."future", NEW."id", NEW."past", _pgh_attach_context(), NOW(), \'insert\', NEW."id", NEW."revision"); RETURN NULL;', hash='bd8671de55d8725914ddecc6449eae324bc0bced', operation='INSERT', pgid='pgtrigger_insert_insert_ffbe3', table='programs_draft', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='draft',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "programs_draftevent" ("base", "changed_at", "changed_by_id", "client_id", "clinic_id", "content", "future", "id", "past", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "revision") VALUES (NEW."base", NEW."changed_at", NEW."changed_by_id", NEW."client_id", NEW."clinic_id", NEW."content", NEW."future", NEW."id", NEW."past", _pgh_attach_context(), NOW(), \'update\', NEW."id", NEW."revision"); RETURN NULL;', hash='a532c20cffae24372daa04db1d215baef1383d32', operation='UPDATE', pgid='pgtrigger_update_update_d5447', table='programs_draft', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='programtemplate',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "programs_programtemplateevent" ("at", "by_id", "clinic_id", "content", "id", "name", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "taken_away_at") VALUES (NEW."at", NEW."by_id", NEW."clinic_id", NEW."content", NEW."id", NEW."name", _pgh_attach_context(), NOW(), \'insert\', NEW."id", NEW."taken_away_at"); RETURN NULL;', hash='7e2db24744a9d019ccc21c677860e8da7eebe2d9', operation='INSERT', pgid='pgtrigger_insert_insert_76617', table='programs_programtemplate', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='programtemplate',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "programs_programtemplateevent" ("at", "by_id", "clinic_id", "content", "id", "name", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "taken_away_at") VALUES (NEW."at", NEW."by_id", NEW."clinic_id", NEW."content", NEW."id", NEW."name", _pgh_attach_context(), NOW(), \'update\', NEW."id", NEW."taken_away_at"); RETURN NULL;', hash='384bffd5311016e7824afd49a93caa4298e2bece', operation='UPDATE', pgid='pgtrigger_update_update_b4241', table='programs_programtemplate', when='AFTER')),
        ),
    ]
