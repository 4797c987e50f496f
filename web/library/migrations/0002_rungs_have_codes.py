"""What was told by words in tasks a clinic adapted: forms by their codes, how many vowels are held."""

from django.db import migrations

_CODES = {
    "air only": "air_only",
    "one comfortable note": "one_note",
    "glide up": "glide_up",
    "glide down": "glide_down",
    "up and down": "up_and_down",
    "three rises in one breath": "three_rises",
    "swell": "swell",
    "five-note scale": "five_note_scale",
    "octave-and-a-ninth scale": "octave_and_ninth_scale",
    "a tune": "tune",
    "a phrase, then open": "phrase_then_open",
}


def _coded(apps, schema_editor):
    for row in apps.get_model("library", "ClinicTask").objects.filter(content__grows="form"):
        row.content["rungs"] = [_CODES.get(one, one) for one in row.content.get("rungs", [])]
        row.save(update_fields=["content"])
    for row in apps.get_model("library", "ClinicTask").objects.filter(
        content__kind="hold", family="E"
    ):
        vowels = len(row.content.get("sound", "").split(", "))
        limits = {"unit": "vowels, each once", "low": 1, "high": max(vowels, 5), "default": vowels}
        row.content.setdefault("set", {}).setdefault("vowels", limits)
        row.save(update_fields=["content"])


def _worded(apps, schema_editor):
    words = {code: one for one, code in _CODES.items()}
    for row in apps.get_model("library", "ClinicTask").objects.filter(content__grows="form"):
        row.content["rungs"] = [words.get(one, one) for one in row.content.get("rungs", [])]
        row.save(update_fields=["content"])


class Migration(migrations.Migration):
    dependencies = [("library", "0001_own_and_hidden_tasks")]

    operations = [migrations.RunPython(_coded, _worded)]
