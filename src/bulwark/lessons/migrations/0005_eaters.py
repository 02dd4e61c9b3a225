from django.db import migrations, models


class Migration(migrations.Migration):
    """A lesson keeps who eats, as it keeps the process: a recipe edited later changes neither."""

    dependencies = [
        ("lessons", "0004_local_limits"),
    ]

    operations = [
        migrations.AddField(
            model_name="lesson",
            name="eaters",
            field=models.JSONField(blank=True, default=dict),
        ),
    ]
