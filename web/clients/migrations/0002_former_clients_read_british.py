from django.db import migrations


class Migration(migrations.Migration):
    """Existing clients keep British dates, like their clinics."""

    dependencies = [
        ("clients", "0001_squashed"),
        ("clinic", "0003_former_clinics_read_british"),
    ]

    operations = [
        migrations.RunSQL(
            "UPDATE clients_client SET language = 'en-gb' WHERE language = 'en'",
            migrations.RunSQL.noop,
        )
    ]
