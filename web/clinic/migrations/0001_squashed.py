import django.db.models.deletion
import django.utils.timezone
import pgtrigger.compiler
import pgtrigger.migrations
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('clinic', '0001_initial'), ('clinic', '0002_minutes'), ('clinic', '0003_examination_and_emergency'), ('clinic', '0004_deputy_and_cover'), ('clinic', '0005_limits_and_links'), ('clinic', '0006_access_in_words'), ('clinic', '0007_tries_of_a_mail'), ('clinic', '0008_always_examined')]

    initial = True

    dependencies = [
        ('auth', '0012_alter_user_first_name_max_length'),
        ('pghistory', '0007_auto_20250421_0444'),
    ]

    operations = [
        migrations.RunSQL(
            "CREATE TABLE clinic_shared_cache (cache_key varchar(255) PRIMARY KEY, value text NOT NULL, "
            "expires timestamp with time zone NOT NULL); "
            "CREATE INDEX shared_cache_expires ON clinic_shared_cache (expires)",
            "DROP TABLE clinic_shared_cache",
        ),
        migrations.CreateModel(
            name='OutboxMessage',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('to', models.EmailField(max_length=254)),
                ('subject', models.CharField(max_length=200)),
                ('body', models.TextField()),
                ('written_at', models.DateTimeField()),
                ('not_before', models.DateTimeField(null=True)),
                ('about', models.UUIDField(null=True)),
                ('withdrawn_at', models.DateTimeField(null=True)),
                ('sent_at', models.DateTimeField(null=True)),
                ('failure', models.CharField(blank=True, max_length=300)),
                ('tries', models.PositiveIntegerField(default=0)),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='User',
            fields=[
                ('password', models.CharField(max_length=128, verbose_name='password')),
                ('last_login', models.DateTimeField(blank=True, null=True, verbose_name='last login')),
                ('is_superuser', models.BooleanField(default=False, help_text='Designates that this user has all permissions without explicitly assigning them.', verbose_name='superuser status')),
                ('is_staff', models.BooleanField(default=False, help_text='Designates whether the user can log into this admin site.', verbose_name='staff status')),
                ('is_active', models.BooleanField(default=True, help_text='Designates whether this user should be treated as active. Unselect this instead of deleting accounts.', verbose_name='active')),
                ('date_joined', models.DateTimeField(default=django.utils.timezone.now, verbose_name='date joined')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('email', models.EmailField(max_length=254, unique=True, verbose_name='e-mail')),
                ('name', models.CharField(max_length=120, verbose_name='name')),
                ('letter_keys', models.BooleanField(default=True, verbose_name='single-letter keys')),
                ('groups', models.ManyToManyField(blank=True, help_text='The groups this user belongs to. A user will get all permissions granted to each of their groups.', related_name='user_set', related_query_name='user', to='auth.group', verbose_name='groups')),
                ('user_permissions', models.ManyToManyField(blank=True, help_text='Specific permissions for this user.', related_name='user_set', related_query_name='user', to='auth.permission', verbose_name='user permissions')),
            ],
            options={
                'verbose_name': 'user',
                'verbose_name_plural': 'users',
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Clinic',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('name', models.CharField(max_length=120, verbose_name='name')),
                ('time_zone', models.CharField(default='Europe/Dublin', max_length=64, verbose_name='time zone')),
                ('a4_hz', models.FloatField(default=440.0, verbose_name='concert pitch A4 in Hz')),
                ('short_phonation_s', models.FloatField(default=10.0, verbose_name='flag a phonation time under, seconds')),
                ('sz_ratio_flag', models.FloatField(default=1.4, verbose_name='flag an s/z ratio from')),
                ('session_minutes', models.FloatField(default=20.0, verbose_name='propose home sessions of up to, minutes')),
                ('week_minutes', models.FloatField(default=300.0, verbose_name='propose weeks of up to, minutes')),
                ('hoarse_weeks', models.FloatField(default=2.0, verbose_name='examine the larynx when hoarse for, weeks')),
                ('examination_days', models.PositiveSmallIntegerField(default=182, verbose_name='an examination is fresh for, days')),
                ('always_examined', models.BooleanField(default=False, verbose_name='an examination of the larynx also where there is no complaint')),
                ('emergency_number', models.CharField(default='112', max_length=20, verbose_name='emergency number shown to clients')),
                ('retention_years', models.PositiveSmallIntegerField(default=10, verbose_name='keep records, years')),
                ('link_months', models.PositiveSmallIntegerField(default=12, verbose_name='private links end after, months')),
                ('reason_to_read', models.BooleanField(default=False, verbose_name='who does not treat a client states a reason before reading')),
                ('telephone', models.CharField(blank=True, max_length=40, verbose_name='telephone shown to clients')),
                ('policy_text', models.TextField(blank=True, verbose_name="the clinic's own safety text")),
                ('cover', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL, verbose_name='cover: told of a stop sign nobody answered in a working day')),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(models.Q(('a4_hz', None), models.Q(('a4_hz__gte', 415.0), ('a4_hz__lte', 466.0)), _connector='OR'), models.Q(('short_phonation_s', None), models.Q(('short_phonation_s__gte', 1), ('short_phonation_s__lte', 60)), _connector='OR'), models.Q(('sz_ratio_flag', None), models.Q(('sz_ratio_flag__gte', 1), ('sz_ratio_flag__lte', 5)), _connector='OR'), models.Q(('session_minutes', None), models.Q(('session_minutes__gte', 1), ('session_minutes__lte', 60)), _connector='OR'), models.Q(('week_minutes', None), models.Q(('week_minutes__gte', 5), ('week_minutes__lte', 1000)), _connector='OR'), models.Q(('hoarse_weeks', None), models.Q(('hoarse_weeks__gte', 0.5), ('hoarse_weeks__lte', 8)), _connector='OR'), models.Q(('examination_days', None), models.Q(('examination_days__gte', 14), ('examination_days__lte', 366)), _connector='OR'), models.Q(('retention_years', None), models.Q(('retention_years__gte', 1), ('retention_years__lte', 100)), _connector='OR'), models.Q(('link_months', None), models.Q(('link_months__gte', 1), ('link_months__lte', 36)), _connector='OR')), name='clinic_numbers_in_limits')],
            },
        ),
        migrations.CreateModel(
            name='AccessEvent',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('what', models.CharField(max_length=40)),
                ('where', models.CharField(blank=True, max_length=60)),
                ('words', models.CharField(blank=True, max_length=300)),
                ('subject_id', models.UUIDField(null=True)),
                ('at', models.DateTimeField()),
                ('user', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'indexes': [models.Index(fields=['clinic', 'at'], name='access_by_clinic'), models.Index(fields=['subject_id', 'at'], name='access_by_subject')],
            },
        ),
        migrations.CreateModel(
            name='ClinicEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('name', models.CharField(max_length=120, verbose_name='name')),
                ('time_zone', models.CharField(default='Europe/Dublin', max_length=64, verbose_name='time zone')),
                ('a4_hz', models.FloatField(default=440.0, verbose_name='concert pitch A4 in Hz')),
                ('short_phonation_s', models.FloatField(default=10.0, verbose_name='flag a phonation time under, seconds')),
                ('sz_ratio_flag', models.FloatField(default=1.4, verbose_name='flag an s/z ratio from')),
                ('session_minutes', models.FloatField(default=20.0, verbose_name='propose home sessions of up to, minutes')),
                ('week_minutes', models.FloatField(default=300.0, verbose_name='propose weeks of up to, minutes')),
                ('hoarse_weeks', models.FloatField(default=2.0, verbose_name='examine the larynx when hoarse for, weeks')),
                ('examination_days', models.PositiveSmallIntegerField(default=182, verbose_name='an examination is fresh for, days')),
                ('always_examined', models.BooleanField(default=False, verbose_name='an examination of the larynx also where there is no complaint')),
                ('emergency_number', models.CharField(default='112', max_length=20, verbose_name='emergency number shown to clients')),
                ('retention_years', models.PositiveSmallIntegerField(default=10, verbose_name='keep records, years')),
                ('link_months', models.PositiveSmallIntegerField(default=12, verbose_name='private links end after, months')),
                ('reason_to_read', models.BooleanField(default=False, verbose_name='who does not treat a client states a reason before reading')),
                ('telephone', models.CharField(blank=True, max_length=40, verbose_name='telephone shown to clients')),
                ('policy_text', models.TextField(blank=True, verbose_name="the clinic's own safety text")),
                ('cover', models.ForeignKey(blank=True, db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL, verbose_name='cover: told of a stop sign nobody answered in a working day')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='clinic.clinic')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Invitation',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('email', models.EmailField(max_length=254)),
                ('role', models.CharField(choices=[('clinician', 'Clinician'), ('lead', 'Clinic lead')], default='clinician', max_length=12)),
                ('invited_at', models.DateTimeField()),
                ('accepted_at', models.DateTimeField(blank=True, null=True)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('invited_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Membership',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('role', models.CharField(choices=[('clinician', 'Clinician'), ('lead', 'Clinic lead')], default='clinician', max_length=12)),
                ('active', models.BooleanField(default=True)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('deputy', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL, verbose_name='deputy')),
                ('user', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='membership', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='InvitationEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('email', models.EmailField(max_length=254)),
                ('role', models.CharField(choices=[('clinician', 'Clinician'), ('lead', 'Clinic lead')], default='clinician', max_length=12)),
                ('invited_at', models.DateTimeField()),
                ('accepted_at', models.DateTimeField(blank=True, null=True)),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('invited_by', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='clinic.invitation')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='MembershipEvent',
            fields=[
                ('pgh_id', models.AutoField(primary_key=True, serialize=False)),
                ('pgh_created_at', models.DateTimeField(auto_now_add=True)),
                ('pgh_label', models.TextField(help_text='The event label.')),
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, serialize=False)),
                ('role', models.CharField(choices=[('clinician', 'Clinician'), ('lead', 'Clinic lead')], default='clinician', max_length=12)),
                ('active', models.BooleanField(default=True)),
                ('clinic', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to='clinic.clinic')),
                ('deputy', models.ForeignKey(blank=True, db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL, verbose_name='deputy')),
                ('pgh_context', models.ForeignKey(db_constraint=False, null=True, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', to='pghistory.context')),
                ('pgh_obj', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='events', to='clinic.membership')),
                ('user', models.ForeignKey(db_constraint=False, on_delete=django.db.models.deletion.DO_NOTHING, related_name='+', related_query_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'abstract': False,
            },
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='clinic',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "clinic_clinicevent" ("a4_hz", "always_examined", "cover_id", "emergency_number", "examination_days", "hoarse_weeks", "id", "link_months", "name", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "policy_text", "reason_to_read", "retention_years", "session_minutes", "short_phonation_s", "sz_ratio_flag", "telephone", "time_zone", "week_minutes") VALUES (NEW."a4_hz", NEW."always_examined", NEW."cover_id", NEW."emergency_number", NEW."examination_days", NEW."hoarse_weeks", NEW."id", NEW."link_months", NEW."name", _pgh_attach_context(), NOW(), \'insert\', NEW."id", NEW."policy_text", NEW."reason_to_read", NEW."retention_years", NEW."session_minutes", NEW."short_phonation_s", NEW."sz_ratio_flag", NEW."telephone", NEW."time_zone", NEW."week_minutes"); RETURN NULL;', hash='7679b461c8e2092c3978173af2771bda95ac3760', operation='INSERT', pgid='pgtrigger_insert_insert_89e20', table='clinic_clinic', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='clinic',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "clinic_clinicevent" ("a4_hz", "always_examined", "cover_id", "emergency_number", "examination_days", "hoarse_weeks", "id", "link_months", "name", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "policy_text", "reason_to_read", "retention_years", "session_minutes", "short_phonation_s", "sz_ratio_flag", "telephone", "time_zone", "week_minutes") VALUES (NEW."a4_hz", NEW."always_examined", NEW."cover_id", NEW."emergency_number", NEW."examination_days", NEW."hoarse_weeks", NEW."id", NEW."link_months", NEW."name", _pgh_attach_context(), NOW(), \'update\', NEW."id", NEW."policy_text", NEW."reason_to_read", NEW."retention_years", NEW."session_minutes", NEW."short_phonation_s", NEW."sz_ratio_flag", NEW."telephone", NEW."time_zone", NEW."week_minutes"); RETURN NULL;', hash='c03f24fc3ed9fc5888ec25c986ef3c92f92f70b2', operation='UPDATE', pgid='pgtrigger_update_update_20361', table='clinic_clinic', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='invitation',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "clinic_invitationevent" ("accepted_at", "clinic_id", "email", "id", "invited_at", "invited_by_id", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "role") VALUES (NEW."accepted_at", NEW."clinic_id", NEW."email", NEW."id", NEW."invited_at", NEW."invited_by_id", _pgh_attach_context(), NOW(), \'insert\', NEW."id", NEW."role"); RETURN NULL;', hash='dba77018be9a319045197950e492ec17194ef093', operation='INSERT', pgid='pgtrigger_insert_insert_1e6c5', table='clinic_invitation', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='invitation',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "clinic_invitationevent" ("accepted_at", "clinic_id", "email", "id", "invited_at", "invited_by_id", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "role") VALUES (NEW."accepted_at", NEW."clinic_id", NEW."email", NEW."id", NEW."invited_at", NEW."invited_by_id", _pgh_attach_context(), NOW(), \'update\', NEW."id", NEW."role"); RETURN NULL;', hash='2fb5a9067c151d250183f916c63569dffe6b6533', operation='UPDATE', pgid='pgtrigger_update_update_de1fb', table='clinic_invitation', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='membership',
            trigger=pgtrigger.compiler.Trigger(name='insert_insert', sql=pgtrigger.compiler.UpsertTriggerSql(func='INSERT INTO "clinic_membershipevent" ("active", "clinic_id", "deputy_id", "id", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "role", "user_id") VALUES (NEW."active", NEW."clinic_id", NEW."deputy_id", NEW."id", _pgh_attach_context(), NOW(), \'insert\', NEW."id", NEW."role", NEW."user_id"); RETURN NULL;', hash='981ba364fba73122ca33f12a9a28064bdbf3a8ed', operation='INSERT', pgid='pgtrigger_insert_insert_847aa', table='clinic_membership', when='AFTER')),
        ),
        pgtrigger.migrations.AddTrigger(
            model_name='membership',
            trigger=pgtrigger.compiler.Trigger(name='update_update', sql=pgtrigger.compiler.UpsertTriggerSql(condition='WHEN (OLD.* IS DISTINCT FROM NEW.*)', func='INSERT INTO "clinic_membershipevent" ("active", "clinic_id", "deputy_id", "id", "pgh_context_id", "pgh_created_at", "pgh_label", "pgh_obj_id", "role", "user_id") VALUES (NEW."active", NEW."clinic_id", NEW."deputy_id", NEW."id", _pgh_attach_context(), NOW(), \'update\', NEW."id", NEW."role", NEW."user_id"); RETURN NULL;', hash='a5a6880ea5eaf0598b6992189382807563bb1370', operation='UPDATE', pgid='pgtrigger_update_update_d0685', table='clinic_membership', when='AFTER')),
        ),
    ]
