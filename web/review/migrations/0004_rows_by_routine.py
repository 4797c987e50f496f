"""Caseload rows say which routine a dose and a home session are of; before there was one, "practice"."""

from django.db import migrations


def with_routine(apps, schema_editor):
    rows = apps.get_model("review", "CaseloadRow").objects.all()
    for row in rows.iterator():
        row.stretches = [data if len(data) == 4 else [*data, "practice"] for data in row.stretches]
        row.recent = [data if len(data) == 3 else [*data, "practice"] for data in row.recent]
        row.save(update_fields=["stretches", "recent"])


class Migration(migrations.Migration):
    dependencies = [("review", "0003_rows_hold_the_screening")]
    operations = [migrations.RunPython(with_routine, migrations.RunPython.noop)]
