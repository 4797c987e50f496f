"""Lines of Rounds that were worked out before the state of voice and airway were asked say so."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("review", "0011_visits_noted")]
    operations = [
        migrations.RunSQL(
            """UPDATE review_caseloadrow
               SET screening = jsonb_set(jsonb_set(screening, '{stands,voice}', 'null'), '{stands,airway}', 'null')
               WHERE screening IS NOT NULL""",
            migrations.RunSQL.noop,
        )
    ]
