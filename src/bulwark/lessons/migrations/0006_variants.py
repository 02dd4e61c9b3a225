from django.db import migrations, models


class Migration(migrations.Migration):
    """A lesson keeps the variants of its recipe, as it keeps the process."""

    dependencies = [
        ('lessons', '0005_eaters'),
    ]

    operations = [
        migrations.AddField(
            model_name='lesson',
            name='variants',
            field=models.JSONField(blank=True, default=list),
        ),
    ]
