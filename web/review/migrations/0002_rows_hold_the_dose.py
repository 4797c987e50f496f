"""Rows of the caseload: a stretch holds the whole dose, the screening what each step does."""

from django.db import migrations


def with_dose(apps, _schema_editor):
    for row in apps.get_model("review", "CaseloadRow").objects.all():
        row.stretches = [
            [first, last, {"sessions_a_day": sessions, "days_a_week": days}]
            for first, last, sessions, days in row.stretches
        ]
        if row.screening and "program_touches" in row.screening:
            touches = row.screening.pop("program_touches")
            row.screening["program_does"] = {name: [did, 0.0] for name, did in touches.items()}
        row.save(update_fields=["stretches", "screening"])


class Migration(migrations.Migration):
    dependencies = [("review", "0001_initial")]
    operations = [migrations.RunPython(with_dose, migrations.RunPython.noop)]
