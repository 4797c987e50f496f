from django.db import migrations


class Migration(migrations.Migration):
    """As of their clinics: pages of clients who are there already keep writing days as British English does."""

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
