import django.db.models.deletion
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('records', '0001_taken_in')]

    initial = True

    dependencies = [
        ('clients', '0001_squashed'),
        ('clinic', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='TakenIn',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('installation', models.CharField(max_length=64)),
                ('clinic_name', models.CharField(max_length=120)),
                ('made_at', models.DateTimeField()),
                ('sha256', models.CharField(max_length=64)),
                ('rows', models.PositiveIntegerField()),
                ('in_force', models.BooleanField()),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
            ],
            options={
                'abstract': False,
            },
        ),
    ]
