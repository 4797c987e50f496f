import django.db.models.deletion
import pgtrigger.compiler
import pgtrigger.migrations
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('review', '0001_initial'), ('review', '0002_rows_hold_the_dose'), ('review', '0003_rows_hold_the_screening'), ('review', '0004_rows_by_routine'), ('review', '0005_ready_on_days'), ('review', '0006_results_and_decisions'), ('review', '0007_rounds'), ('review', '0008_stale_since'), ('review', '0009_flags_said'), ('review', '0010_unreadable'), ('review', '0011_visits_noted'), ('review', '0012_state_not_asked'), ('review', '0013_contact_closed'), ('review', '0014_note_entries')]

    initial = True

    dependencies = [
        ('clients', '0001_squashed'),
        ('clinic', '0001_squashed'),
        ('pghistory', '0007_auto_20250421_0444'),
        ('practice', '0001_squashed'),
        ('programs', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='CaseloadRow',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('stop_sign', models.CharField(blank=True, max_length=16)),
                ('stop_sign_on', models.DateField(null=True)),
                ('open_signs', models.JSONField(default=list)),
                ('flags_said', models.JSONField(default=list)),
                ('set_aside', models.PositiveIntegerField(default=0)),
                ('has_baseline', models.BooleanField(default=False)),
                ('active_since', models.DateField(null=True)),
                ('last_session', models.DateField(null=True)),
                ('stretches', models.JSONField(default=list)),
                ('recent', models.JSONField(default=list)),
                ('screening', models.JSONField(null=True)),
                ('link_made_at', models.DateTimeField(null=True)),
                ('rung_s', models.FloatField(null=True)),
                ('goal_s', models.FloatField(null=True)),
                ('families', models.JSONField(default=dict)),
                ('visits', models.JSONField(default=list)),
                ('snoozed_until', models.DateField(null=True)),
                ('snoozed_need', models.PositiveSmallIntegerField(null=True)),
                ('handed', models.JSONField(null=True)),
                ('course', models.JSONField(default=dict)),
                ('stale_since', models.DateTimeField(db_index=True, null=True)),
                ('unreadable', models.CharField(blank=True, max_length=300)),
                ('client', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='caseload_row', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Decision',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('act', models.CharField(choices=[('emergency', 'emergency'), ('contact', 'contact'), ('examine', 'examine'), ('probe', 'probe'), ('rung_down', 'rung_down'), ('ease', 'ease'), ('stage_back', 'stage_back'), ('review', 'review'), ('remeasure', 'remeasure'), ('swap', 'swap'), ('teach', 'teach'), ('taper', 'taper'), ('discharge', 'discharge'), ('climb', 'climb'), ('stay', 'stay')], max_length=12)),
                ('steps', models.JSONField(default=list)),
                ('rung', models.PositiveSmallIntegerField(null=True)),
                ('verdict', models.CharField(choices=[('accepted', 'accepted'), ('altered', 'altered'), ('refused', 'refused')], max_length=8)),
                ('reason', models.CharField(blank=True, max_length=500)),
                ('evidence', models.JSONField(default=dict)),
                ('day', models.DateField()),
                ('due_on', models.DateField(null=True)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('version', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='programs.programversion')),
            ],
            options={
                'indexes': [models.Index(fields=['client', 'day'], name='decisions_by_day')],
                'constraints': [models.CheckConstraint(condition=models.Q(models.Q(('verdict', 'refused'), _negated=True), models.Q(('reason', ''), _negated=True), _connector='OR'), name='refused_with_a_reason')],
            },
        ),
        migrations.CreateModel(
            name='HandOver',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('note', models.CharField(max_length=500)),
                ('at', models.DateTimeField()),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('giver', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('taker', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(('note', ''), _negated=True), name='handed_with_a_note')],
            },
        ),
        migrations.CreateModel(
            name='OpenNote',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('text', models.TextField(blank=True, max_length=8000)),
                ('entries', models.JSONField(default=list)),
                ('revision', models.PositiveIntegerField(default=1)),
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
            name='RuleNumber',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('path', models.CharField(max_length=120)),
                ('value', models.FloatField(null=True)),
                ('reason', models.CharField(max_length=300)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(('reason', ''), _negated=True), name='rule_number_has_reason')],
            },
        ),
        migrations.CreateModel(
            name='SessionResult',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('steps', models.JSONField(default=list)),
                ('whole', models.BooleanField(default=False)),
                ('sign_step', models.CharField(max_length=36, null=True)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('home_session', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='result', to='practice.homesession')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='SignedNote',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('day', models.DateField()),
                ('text', models.TextField(max_length=8000)),
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
            name='Snooze',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('until', models.DateField(null=True)),
                ('need', models.PositiveSmallIntegerField()),
                ('reason', models.CharField(blank=True, max_length=300)),
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
            name='Taught',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('step_id', models.UUIDField()),
                ('name', models.CharField(max_length=120)),
                ('cue', models.CharField(blank=True, max_length=120)),
                ('cue_level', models.CharField(choices=[('none', 'by itself'), ('word', 'after a word'), ('shown', 'after it was shown'), ('hands', 'with hands on')], max_length=5)),
                ('response', models.CharField(choices=[('yes', 'did it'), ('partly', 'partly'), ('no', 'not yet')], max_length=6)),
                ('shown_back', models.CharField(choices=[('yes', 'did it'), ('partly', 'partly'), ('no', 'not yet')], max_length=6)),
                ('fade', models.CharField(blank=True, max_length=200)),
                ('day', models.DateField()),
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
            name='ComingNeed',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('from_day', models.DateField()),
                ('until_day', models.DateField(null=True)),
                ('need', models.PositiveSmallIntegerField()),
                ('since', models.DateField(null=True)),
                ('act', models.CharField(blank=True, max_length=12)),
                ('about', models.CharField(blank=True, max_length=400)),
                ('words', models.JSONField(default=list)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'indexes': [models.Index(fields=['clinic', 'need', 'since'], name='needs_in_order')],
                'constraints': [models.UniqueConstraint(fields=('client', 'from_day'), name='one_need_a_day'), models.CheckConstraint(condition=models.Q(('until_day', None), ('until_day__gt', models.F('from_day')), _connector='OR'), name='needs_end_after')],
            },
        ),
        migrations.CreateModel(
            name='DecisionDone',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('day', models.DateField(null=True)),
                ('said', models.CharField(blank=True, max_length=500)),
                ('then', models.CharField(blank=True, choices=[('reopen', 'Reopen the held steps one target lower'), ('hold', 'Keep them on hold'), ('examine', 'Examine first')], max_length=8)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('decision', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='done', to='review.decision')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='NoteRead',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('at', models.DateTimeField()),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('hand_over', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='note_read', to='review.handover')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='OpenNoteEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('text', models.TextField(blank=True, max_length=8000)),
                ('entries', models.JSONField(default=list)),
                ('revision', models.PositiveIntegerField(default=1)),
                ('changed_at', models.DateTimeField()),
                ('changed_by', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='review.opennote')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Addendum',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('text', models.CharField(max_length=2000)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('note', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='addenda', to='review.signednote')),
            ],
            options={
                'abstract': False,
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='opennote',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "review_opennoteevent" ("changed_at", "changed_by_id", "client_id", "clinic_id", "entries", "id", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "revision", "text") VALUES (NEW."changed_at", NEW."changed_by_id", NEW."client_id", NEW."clinic_id", NEW."entries", NEW."id", _pgh_attach_context(), NOW(), \'insert\', NEW."id", NEW."revision", NEW."text"); RETURN NULL;', hash='2e39669a930c85b24d4bd7dd82bdd563523d966c', operation='INSERT', pgid='pgtrigger_insert_insert_71fbc', table='review_opennote', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='opennote',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "review_opennoteevent" ("changed_at", "changed_by_id", "client_id", "clinic_id", "entries", "id", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "revision", "text") VALUES (NEW."changed_at", NEW."changed_by_id", NEW."client_id", NEW."clinic_id", NEW."entries", NEW."id", _pgh_attach_context(), NOW(), \'update\', NEW."id", NEW."revision", NEW."text"); RETURN NULL;', hash='5eb178f4a92e40a681d8e4b74f71155369bd3c28', operation='UPDATE', pgid='pgtrigger_update_update_c908b', table='review_opennote', when='AFTER')),
        ),
    ]
