"""Attempts dated before their home session or after they were received begin with the session."""

from django.db import migrations
from django.db.models import F, Q


def repaired(apps, _schema_editor):
    rows = apps.get_model("practice", "Attempt").objects.select_related("home_session")
    odd = Q(started_at__lt=F("home_session__started_at")) | Q(started_at__gt=F("received_at"))
    for row in rows.filter(odd):
        row.started_at = min(row.home_session.started_at, row.received_at)
        row.clock = "estimated"
        row.save(update_fields=["started_at", "clock"])


class Migration(migrations.Migration):
    dependencies = [("practice", "0004_schools_and_tasks")]
    operations = [migrations.RunPython(repaired, migrations.RunPython.noop)]
