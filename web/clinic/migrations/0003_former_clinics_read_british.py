from django.db import migrations


class Migration(migrations.Migration):
    """Pages wrote days as British English does until now: clinics that are there already keep that."""

    dependencies = [("clinic", "0002_language")]

    operations = [
        migrations.RunSQL("UPDATE clinic_clinic SET language = 'en-gb'", migrations.RunSQL.noop)
    ]
