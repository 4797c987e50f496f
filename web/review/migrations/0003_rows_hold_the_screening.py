"""Rows of the caseload: the screening as it stands, and what each step of the program does."""

from django.db import migrations

KEPT = (
    "asked_on",
    "larynx_examined_on",
    "red_flags",
    "cleared_from",
    "voice_rest_until",
    "hoarse_weeks",
    "guardian_consent",
    "conditions",
)


def standing(apps, _schema_editor):
    for row in apps.get_model("review", "CaseloadRow").objects.exclude(screening=None):
        old = row.screening
        if "stands" in old:
            continue
        does = old.get("program_does", {})
        row.screening = {
            "stands": {name: old.get(name) for name in KEPT if old.get(name) is not None}
            | {"larynx_examined_on": old.get("larynx_examined_on")},
            "findings": old.get("findings", ""),
            "program_does": [
                {"name": name, "touches": touches, "minutes": minutes}
                for name, (touches, minutes) in does.items()
            ],
        }
        row.save(update_fields=["screening"])


class Migration(migrations.Migration):
    dependencies = [("review", "0002_rows_hold_the_dose")]
    operations = [migrations.RunPython(standing, migrations.RunPython.noop)]
