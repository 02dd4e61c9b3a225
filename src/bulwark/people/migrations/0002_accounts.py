import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def who_was_there(apps, schema_editor):
    """Whoever had an account could do everything: they are owners. The made-up hostel is known by its educator."""
    users = apps.get_model("people", "User")
    users.objects.update(role="owner")
    demo = users.objects.filter(username__endswith="educator@skerrypoint.example").values("organisation_id")
    apps.get_model("people", "Organisation").objects.filter(pk__in=demo).update(is_demo=True)


class Migration(migrations.Migration):

    dependencies = [
        ('people', '0001_initial'),
    ]

    operations = [
        migrations.AddField(
            model_name='organisation',
            name='is_demo',
            field=models.BooleanField(default=False),
        ),
        migrations.AddField(
            model_name='organisation',
            name='session_hours',
            field=models.PositiveSmallIntegerField(default=12),
        ),
        migrations.AddField(
            model_name='user',
            name='role',
            field=models.CharField(default='educator', max_length=12),
        ),
        migrations.AddField(
            model_name='user',
            name='signed_out_at',
            field=models.DateTimeField(blank=True, null=True),
        ),
        migrations.CreateModel(
            name='Welcome',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('email', models.EmailField(max_length=150)),
                ('role', models.CharField(max_length=12)),
                ('token_hash', models.CharField(max_length=64, unique=True)),
                ('made_at', models.DateTimeField()),
                ('ends_at', models.DateTimeField()),
                ('used_at', models.DateTimeField(blank=True, null=True)),
                ('organisation', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='welcomes', to='people.organisation')),
                ('user', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='welcomes', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.RunPython(who_was_there, migrations.RunPython.noop),
    ]
