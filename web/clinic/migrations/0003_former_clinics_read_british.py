from django.db import migrations


class Migration(migrations.Migration):
    """Dates were British until now; existing clinics keep them."""

    dependencies = [("clinic", "0002_language")]

    operations = [
        migrations.RunSQL("UPDATE clinic_clinic SET language = 'en-gb'", migrations.RunSQL.noop)
    ]
