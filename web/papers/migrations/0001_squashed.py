import django.db.models.deletion
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('papers', '0001_papers'), ('papers', '0002_words_to_say')]

    initial = True

    dependencies = [
        ('clients', '0001_squashed'),
        ('clinic', '0001_squashed'),
        ('programs', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='SheetDraft',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('routine', models.CharField(blank=True, max_length=40)),
                ('first', models.DateField(null=True)),
                ('typed', models.JSONField(default=dict)),
                ('csv', models.BinaryField(null=True)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('version', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='programs.programversion')),
            ],
            options={
                'constraints': [models.UniqueConstraint(condition=models.Q(('csv', None)), fields=('client', 'by', 'version', 'routine', 'first'), name='one_draft_a_sheet'), models.UniqueConstraint(condition=models.Q(('csv', None), _negated=True), fields=('client', 'by'), name='one_file_at_a_time')],
            },
        ),
        migrations.CreateModel(
            name='Issued',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('kind', models.CharField(choices=[('handout', 'handout'), ('sheet', 'practice sheet'), ('calendar', 'calendar'), ('report', 'report'), ('words', 'words to say')], max_length=8)),
                ('part', models.CharField(blank=True, max_length=60)),
                ('edition', models.PositiveIntegerField()),
                ('digest', models.CharField(max_length=64)),
                ('content', models.JSONField(default=dict)),
                ('at', models.DateTimeField()),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('client', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clients.client')),
                ('clinic', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='clinic.clinic')),
                ('version', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='programs.programversion')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('client', 'kind', 'part', 'edition'), name='edition_once')],
            },
        ),
    ]
