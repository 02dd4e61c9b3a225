"""For how long names are kept is said for each kind of record."""

from django.db import migrations, models


def by_kind(apps, _schema):
    """What was chosen for two kinds stays chosen for them; the others are as where nobody has chosen."""
    for row in apps.get_model("records", "Retention").objects.all():
        row.months_by_kind = {"lessons": row.months, "answers": row.answers_months}
        row.save(update_fields=["months_by_kind"])


class Migration(migrations.Migration):
    dependencies = [("records", "0004_keys_as_digests")]

    operations = [
        migrations.AddField("Retention", "months_by_kind", models.JSONField(default=dict)),
        migrations.RunPython(by_kind, migrations.RunPython.noop),
        migrations.RemoveField("Retention", "months"),
        migrations.RemoveField("Retention", "answers_months"),
    ]
