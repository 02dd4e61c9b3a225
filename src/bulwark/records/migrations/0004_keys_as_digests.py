import hashlib

from django.db import migrations


def as_digests(apps, schema_editor):
    for row in apps.get_model("records", "BroughtRecord").objects.defer("data").iterator():
        row.key = hashlib.sha256(row.key.encode()).hexdigest()
        row.save(update_fields=["key"])


class Migration(migrations.Migration):
    dependencies = [("records", "0003_answers_kept")]

    operations = [migrations.RunPython(as_digests, migrations.RunPython.noop, elidable=True)]
