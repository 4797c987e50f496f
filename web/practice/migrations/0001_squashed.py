import datetime
import django.db.models.deletion
import django.db.models.expressions
import pgtrigger.compiler
import pgtrigger.migrations
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('practice', '0001_initial'), ('practice', '0002_initial'), ('practice', '0003_tremor_onset_correction'), ('practice', '0004_schools_and_tasks'), ('practice', '0005_times_repaired'), ('practice', '0006_times_between_session_and_receipt'), ('practice', '0007_levelreset'), ('practice', '0008_routines'), ('practice', '0009_said_of_the_time_between'), ('practice', '0010_remarks'), ('practice', '0011_heard'), ('practice', '0012_from_paper')]

    initial = True

    dependencies = [
        ('clients', '0001_squashed'),
        ('clinic', '0001_squashed'),
        ('measuring', '0001_squashed'),
        ('pghistory', '0007_auto_20250421_0444'),
        ('programs', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='HearingConsent',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('agreed', models.BooleanField()),
                ('guardian', models.BooleanField(default=False)),
                ('words', models.JSONField(default=list)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='HomeSession',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('routine', models.CharField(default='practice', max_length=40)),
                ('started_at', models.DateTimeField()),
                ('practice_day', models.DateField()),
                ('clock', models.CharField(default='server', max_length=10)),
                ('ended_at', models.DateTimeField(null=True)),
                ('outcome', models.CharField(choices=[('open', 'open'), ('kept', 'kept'), ('short', 'short'), ('stopped', 'stopped')], default='open', max_length=8)),
                ('stop_sign', models.CharField(blank=True, max_length=16)),
                ('stop_cleared_at', models.DateTimeField(null=True)),
                ('effort', models.PositiveSmallIntegerField(null=True)),
                ('discomfort', models.PositiveSmallIntegerField(null=True)),
                ('hoarser', models.BooleanField(null=True)),
                ('soft_high_lost', models.BooleanField(null=True)),
                ('pain', models.PositiveSmallIntegerField(null=True)),
                ('access', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.clientaccess')),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('stop_cleared_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('version', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='programs.programversion')),
            ],
            options={
                'indexes': [models.Index(fields=['client', 'practice_day'], name='sessions_by_day')],
                'constraints': [models.CheckConstraint(condition=models.Q(models.Q(('effort', None), ('effort__lte', 10), _connector='OR'), models.Q(('discomfort', None), ('discomfort__lte', 10), _connector='OR'), models.Q(('pain', None), ('pain__lte', 10), _connector='OR')), name='ratings_0_to_10')],
            },
        ),
        migrations.CreateModel(
            name='LevelReset',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('device', models.CharField(max_length=200)),
                ('kind', models.CharField(choices=[('soft', 'soft holds'), ('conversation', 'usual talk')], max_length=12)),
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
            name='PaperLog',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('how', models.CharField(choices=[('sheet', 'sheet'), ('csv', 'CSV file')], max_length=5)),
                ('first', models.DateField()),
                ('last', models.DateField()),
                ('home_sessions', models.PositiveIntegerField()),
                ('attempts', models.PositiveIntegerField()),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('version', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='programs.programversion')),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(('last__gte', models.F('first'))), name='paper_days_in_order')],
            },
        ),
        migrations.CreateModel(
            name='SetAside',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('upload_id', models.UUIDField()),
                ('reason', models.CharField(max_length=20)),
                ('sha256', models.CharField(max_length=64)),
                ('offer', models.JSONField()),
                ('figures', models.JSONField(null=True)),
                ('seconds', models.FloatField(null=True)),
                ('at', models.DateTimeField()),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('upload_id', 'sha256'), name='set_aside_once')],
            },
        ),
        migrations.CreateModel(
            name='Entry',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('kind', models.CharField(max_length=12)),
                ('step_id', models.UUIDField(null=True)),
                ('value', models.JSONField()),
                ('sha256', models.CharField(max_length=64)),
                ('at', models.DateTimeField()),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('home_session', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='entries', to='practice.homesession')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='HomeSessionEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('routine', models.CharField(default='practice', max_length=40)),
                ('started_at', models.DateTimeField()),
                ('practice_day', models.DateField()),
                ('clock', models.CharField(default='server', max_length=10)),
                ('ended_at', models.DateTimeField(null=True)),
                ('outcome', models.CharField(choices=[('open', 'open'), ('kept', 'kept'), ('short', 'short'), ('stopped', 'stopped')], default='open', max_length=8)),
                ('stop_sign', models.CharField(blank=True, max_length=16)),
                ('stop_cleared_at', models.DateTimeField(null=True)),
                ('effort', models.PositiveSmallIntegerField(null=True)),
                ('discomfort', models.PositiveSmallIntegerField(null=True)),
                ('hoarser', models.BooleanField(null=True)),
                ('soft_high_lost', models.BooleanField(null=True)),
                ('pain', models.PositiveSmallIntegerField(null=True)),
                ('access', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clients.clientaccess')),
                ('client', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='practice.homesession')),
                ('stop_cleared_by', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
                ('version', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='programs.programversion')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='LookedAt',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('set_aside', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='looked_at', to='practice.setaside')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Attempt',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('step_id', models.UUIDField()),
                ('rung', models.PositiveSmallIntegerField()),
                ('place', models.PositiveSmallIntegerField()),
                ('repetition', models.PositiveSmallIntegerField()),
                ('note', models.CharField(blank=True, max_length=4)),
                ('target_s', models.FloatField()),
                ('count', models.PositiveSmallIntegerField(null=True)),
                ('count_asked', models.PositiveSmallIntegerField(null=True)),
                ('state', models.CharField(choices=[('measured', 'measured'), ('timed', 'timed'), ('interrupted', 'interrupted')], max_length=12)),
                ('taken', models.CharField(choices=[('live', 'measured live'), ('wav', 'measured after sending'), ('stopwatch', 'stopwatch'), ('typed', 'typed in'), ('paper', 'from paper')], max_length=10)),
                ('seconds', models.FloatField(null=True)),
                ('sha256', models.CharField(max_length=64)),
                ('started_at', models.DateTimeField()),
                ('clock', models.CharField(max_length=10)),
                ('received_at', models.DateTimeField()),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('measurement', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='attempts', to='measuring.measurement')),
                ('version', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='programs.programversion')),
                ('home_session', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='attempts', to='practice.homesession')),
            ],
            options={
                'indexes': [models.Index(fields=['client', 'started_at'], name='attempts_by_time')],
                'constraints': [models.CheckConstraint(condition=models.Q(('seconds', None), models.Q(('seconds__gte', 0), ('seconds__lte', 3600)), _connector='OR'), name='attempt_seconds'), models.CheckConstraint(condition=models.Q(('started_at__lte', models.F('received_at')), ('started_at__gte', django.db.models.expressions.CombinedExpression(models.F('received_at'), '-', models.Value(datetime.timedelta(days=400))))), name='attempt_between_session_and_receipt'), models.CheckConstraint(condition=models.Q(('count', None), ('count__lte', 120), _connector='OR'), name='attempt_count'), models.CheckConstraint(condition=models.Q(models.Q(('state', 'interrupted'), _negated=True), ('measurement', None), _connector='OR'), name='interrupted_has_no_measurement')],
            },
        ),
        migrations.CreateModel(
            name='Correction',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('onset_s', models.FloatField()),
                ('offset_s', models.FloatField()),
                ('reason', models.CharField(max_length=300)),
                ('at', models.DateTimeField()),
                ('attempt', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='corrections', to='practice.attempt')),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(('offset_s__gt', models.F('onset_s')), ('offset_s__lte', 120), ('onset_s__gte', 0)), name='correction_in_order'), models.CheckConstraint(condition=models.Q(('reason', ''), _negated=True), name='correction_has_reason')],
            },
        ),
        migrations.CreateModel(
            name='HeardSound',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('step_id', models.UUIDField()),
                ('made_at', models.DateTimeField(db_index=True)),
                ('flac', models.BinaryField()),
                ('attempt', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='heard', to='practice.attempt')),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Remark',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('kind', models.CharField(choices=[('note', 'note'), ('leave_out', 'left out'), ('count_again', 'counts again')], max_length=12)),
                ('words', models.CharField(max_length=300)),
                ('at', models.DateTimeField()),
                ('attempt', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='remarks', to='practice.attempt')),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('home_session', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='remarks', to='practice.homesession')),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(('words', ''), _negated=True), name='remark_has_words')],
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='homesession',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "practice_homesessionevent" ("access_id", "client_id", "clinic_id", "clock", "discomfort", "effort", "ended_at", "hoarser", "id", "outcome", "pain", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "practice_day", "routine", "soft_high_lost", "started_at", "stop_cleared_at", "stop_cleared_by_id", "stop_sign", "version_id") VALUES (NEW."access_id", NEW."client_id", NEW."clinic_id", NEW."clock", NEW."discomfort", NEW."effort", NEW."ended_at", NEW."hoarser", NEW."id", NEW."outcome", NEW."pain", _pgh_attach_context(), NOW(), \'insert\', NEW."id", NEW."practice_day", NEW."routine", NEW."soft_high_lost", NEW."started_at", NEW."stop_cleared_at", NEW."stop_cleared_by_id", NEW."stop_sign", NEW."version_id"); RETURN NULL;', hash='2ebb0a5faade413cb1c79880590653c7bc2fb399', operation='INSERT', pgid='pgtrigger_insert_insert_da609', table='practice_homesession', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='homesession',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "practice_homesessionevent" ("access_id", "client_id", "clinic_id", "clock", "discomfort", "effort", "ended_at", "hoarser", "id", "outcome", "pain", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "practice_day", "routine", "soft_high_lost", "started_at", "stop_cleared_at", "stop_cleared_by_id", "stop_sign", "version_id") VALUES (NEW."access_id", NEW."client_id", NEW."clinic_id", NEW."clock", NEW."discomfort", NEW."effort", NEW."ended_at", NEW."hoarser", NEW."id", NEW."outcome", NEW."pain", _pgh_attach_context(), NOW(), \'update\', NEW."id", NEW."practice_day", NEW."routine", NEW."soft_high_lost", NEW."started_at", NEW."stop_cleared_at", NEW."stop_cleared_by_id", NEW."stop_sign", NEW."version_id"); RETURN NULL;', hash='acb129be9dd686b5046e0df7c353416d47e9708a', operation='UPDATE', pgid='pgtrigger_update_update_6f9a8', table='practice_homesession', when='AFTER')),
        ),
    ]
