import django.db.models.deletion
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('measuring', '0001_initial'), ('measuring', '0002_tremor_onset_correction'), ('measuring', '0003_tasks_and_devices'), ('measuring', '0004_open_attempts'), ('measuring', '0005_from_paper')]

    initial = True

    dependencies = [
        ('clinic', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='ServerProcess',
            fields=[
                ('id', models.UUIDField(primary_key=True, serialize=False)),
                ('name', models.CharField(max_length=120)),
                ('seen_at', models.DateTimeField()),
            ],
        ),
        migrations.CreateModel(
            name='Measurement',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('client_id', models.UUIDField(db_index=True)),
                ('task', models.CharField(max_length=12)),
                ('taken', models.CharField(choices=[('live', 'measured live'), ('wav', 'measured after sending'), ('stopwatch', 'stopwatch'), ('typed', 'typed in'), ('paper', 'from paper')], max_length=10)),
                ('measured_by', models.CharField(max_length=20)),
                ('measured_at', models.DateTimeField()),
                ('hold_s', models.FloatField(null=True)),
                ('onset_s', models.FloatField(null=True)),
                ('offset_s', models.FloatField(null=True)),
                ('f0_median_hz', models.FloatField(null=True)),
                ('f0_sd_semitones', models.FloatField(null=True)),
                ('pitch_error_cents', models.FloatField(null=True)),
                ('level_mean_db', models.FloatField(null=True)),
                ('level_sd_db', models.FloatField(null=True)),
                ('slope_db_per_s', models.FloatField(null=True)),
                ('trail_off_db', models.FloatField(null=True)),
                ('glide_low_hz', models.FloatField(null=True)),
                ('glide_high_hz', models.FloatField(null=True)),
                ('tremor_rate_hz', models.FloatField(null=True)),
                ('tremor_extent_cents', models.FloatField(null=True)),
                ('onset_kind', models.CharField(blank=True, max_length=8)),
                ('glide', models.JSONField(null=True)),
                ('room_db', models.FloatField(null=True)),
                ('own', models.JSONField(null=True)),
                ('verdict', models.CharField(max_length=16)),
                ('reasons', models.JSONField(default=list)),
                ('breaks', models.JSONField(default=list)),
                ('device', models.JSONField(default=dict)),
                ('input', models.CharField(default='microphone', max_length=20)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(('hold_s', None), models.Q(('hold_s__gte', 0), ('hold_s__lte', 120)), _connector='OR'), name='hold_not_negative')],
            },
        ),
        migrations.CreateModel(
            name='DeviceReference',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('client_id', models.UUIDField(db_index=True)),
                ('device', models.CharField(max_length=200)),
                ('voice_dbfs', models.FloatField()),
                ('room_dbfs', models.FloatField(null=True)),
                ('distance_cm', models.FloatField()),
                ('meter_db', models.FloatField(null=True)),
                ('meter_distance_cm', models.FloatField(default=30.0)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('measurement', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='reference', to='measuring.measurement')),
            ],
            options={
                'constraints': [models.CheckConstraint(condition=models.Q(('distance_cm__gte', 5), ('distance_cm__lte', 100), ('meter_distance_cm__gte', 5), ('meter_distance_cm__lte', 100)), name='reference_distances'), models.CheckConstraint(condition=models.Q(('meter_db', None), models.Q(('meter_db__gte', 30), ('meter_db__lte', 120)), _connector='OR'), name='reference_meter')],
            },
        ),
        migrations.CreateModel(
            name='OpenAttempt',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('sitting', models.UUIDField()),
                ('step_id', models.CharField(max_length=80)),
                ('attempt_id', models.UUIDField()),
                ('process', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='open', to='measuring.serverprocess')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('sitting', 'step_id'), name='one_attempt_of_a_step')],
            },
        ),
        migrations.CreateModel(
            name='StoredContour',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('client_id', models.UUIDField(db_index=True)),
                ('f0', models.BinaryField()),
                ('level', models.BinaryField()),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('measurement', models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name='contour', to='measuring.measurement')),
            ],
            options={
                'abstract': False,
            },
        ),
    ]
