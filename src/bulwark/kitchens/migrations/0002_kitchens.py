"""House rules stand apart from the rooms they hold for: an organisation has one or more kitchens."""

import django.db.models.deletion
from django.db import migrations, models


def copy_rooms(apps, schema_editor):
    """What was counted in the one kitchen there was stays with it."""
    rules = apps.get_model("kitchens", "HouseRules")
    kitchen = apps.get_model("kitchens", "Kitchen")
    kitchen.objects.bulk_create(
        kitchen(organisation_id=row.organisation_id, name="Kitchen", equipment=row.equipment, benches=row.benches)
        for row in rules.objects.all()
    )


class Migration(migrations.Migration):
    dependencies = [
        ("kitchens", "0001_initial"),
        ("people", "0002_accounts"),
    ]

    operations = [
        migrations.RenameModel("Kitchen", "HouseRules"),
        migrations.AlterField(
            "HouseRules",
            "organisation",
            models.OneToOneField(
                on_delete=django.db.models.deletion.CASCADE, related_name="house_rules", to="people.organisation"
            ),
        ),
        migrations.CreateModel(
            name="Kitchen",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(default="Kitchen", max_length=80)),
                ("position", models.PositiveSmallIntegerField(default=0)),
                ("equipment", models.JSONField(blank=True, default=dict)),
                ("benches", models.PositiveSmallIntegerField(default=4)),
                ("oven_shelves", models.JSONField(blank=True, default=list)),
                ("rings", models.JSONField(blank=True, default=dict)),
                ("boards", models.JSONField(blank=True, default=dict)),
                ("fridge_l", models.PositiveIntegerField(blank=True, null=True)),
                ("freezer_l", models.PositiveIntegerField(blank=True, null=True)),
                ("altitude_m", models.IntegerField(blank=True, null=True)),
                (
                    "tap",
                    models.CharField(blank=True, choices=[("yes", "yes"), ("no", "no"), ("", "not said")], max_length=3),
                ),
                ("archived_at", models.DateTimeField(blank=True, null=True)),
                (
                    "organisation",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="kitchens", to="people.organisation"
                    ),
                ),
            ],
            options={"ordering": ["position", "pk"]},
        ),
        migrations.RunPython(copy_rooms, migrations.RunPython.noop),
        migrations.RemoveField("HouseRules", "equipment"),
        migrations.RemoveField("HouseRules", "benches"),
    ]
