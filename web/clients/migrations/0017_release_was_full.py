"""A release that was recorded before it could be limited was one without limits."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("clients", "0016_state_of_voice")]
    operations = [
        migrations.RunSQL(
            "UPDATE clients_storedscreening SET release = 'full' WHERE released_on IS NOT NULL",
            migrations.RunSQL.noop,
        )
    ]
