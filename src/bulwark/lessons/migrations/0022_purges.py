from importlib import import_module

import django.db.models.deletion
from django.db import migrations, models

# A log is added to and never changed, with one way out: names and words are taken from an entry by this function alone,
# which runs as its owner (see grants.sql), changes nothing else of it, and answers with the hashes of what it said and
# of what it says now. The entry's own hash, and so the chain, stay as they were.
FORWARD = """
CREATE OR REPLACE FUNCTION bulwark_event_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF TG_OP = 'UPDATE' THEN
        IF current_setting('bulwark.purging', true) = OLD.id::text
            AND to_jsonb(NEW) - 'data' = to_jsonb(OLD) - 'data' THEN
            RETURN NEW;
        END IF;
    END IF;
    RAISE EXCEPTION 'the log is append-only: % refused', TG_OP USING ERRCODE = 'restrict_violation';
END $$;

CREATE FUNCTION bulwark_purge_event(event bigint, cleaned jsonb) RETURNS text[] LANGUAGE plpgsql
    SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
    before text;
    after text;
BEGIN
    SELECT data::text INTO before FROM lessons_event WHERE id = event FOR UPDATE;
    PERFORM set_config('bulwark.purging', event::text, true);
    UPDATE lessons_event SET data = cleaned WHERE id = event RETURNING data::text INTO after;
    PERFORM set_config('bulwark.purging', '', true);
    RETURN ARRAY[encode(sha256(convert_to(before, 'UTF8')), 'hex'), encode(sha256(convert_to(after, 'UTF8')), 'hex')];
END $$;
"""

_kept = import_module("bulwark.lessons.migrations.0003_log_is_append_only").FORWARD
_kept = _kept[_kept.index("CREATE FUNCTION bulwark_event_kept") : _kept.index("CREATE TRIGGER event_chain")]
BACKWARD = "DROP FUNCTION bulwark_purge_event(bigint, jsonb);\n" + _kept.replace("CREATE FUNCTION", "CREATE OR REPLACE FUNCTION")


class Migration(migrations.Migration):

    dependencies = [
        ("lessons", "0021_stock"),
        ("people", "0002_accounts"),
    ]

    operations = [
        migrations.CreateModel(
            name="LessonPurge",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("lesson_id", models.BigIntegerField(unique=True)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("by", models.CharField(max_length=40)),
                ("entries", models.JSONField()),
                ("contexts", models.JSONField()),
                ("signature", models.CharField(max_length=64)),
            ],
        ),
        migrations.RunSQL(FORWARD, BACKWARD),
    ]
