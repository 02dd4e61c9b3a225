from django.contrib.postgres.operations import TrigramExtension
from django.db import migrations


class Migration(migrations.Migration):
    """Searching with slips of the finger needs PostgreSQL trigrams."""

    dependencies = [("recipes", "0001_initial")]
    operations = [TrigramExtension()]
