"""For how long names are kept is said for each kind of record."""

from django.db import migrations, models


def by_kind(apps, _schema):
    """What was chosen for two kinds stays chosen for them; the others are as where nobody has chosen."""
    for row in apps.get_model("records", "Retention").objects.all():
        row.months_by_kind = {"lessons": row.months, "answers": row.answers_months}
        row.save(update_fields=["months_by_kind"])


def by_column(apps, _schema):
    """Back to the two kinds that had a column."""
    for row in apps.get_model("records", "Retention").objects.all():
        row.months, row.answers_months = (row.months_by_kind.get(kind, n) for kind, n in (("lessons", 24), ("answers", 12)))
        row.save(update_fields=["months", "answers_months"])


class Migration(migrations.Migration):
    dependencies = [("records", "0004_keys_as_digests")]

    operations = [
        migrations.AddField("Retention", "months_by_kind", models.JSONField(default=dict)),
        migrations.RunPython(by_kind, by_column),
        # With a default it can come back into a table that has rows.
        migrations.AlterField("Retention", "months", models.PositiveSmallIntegerField(default=24)),
        migrations.RemoveField("Retention", "months"),
        migrations.RemoveField("Retention", "answers_months"),
    ]
