from importlib import import_module

import django.db.models.deletion
from django.db import migrations, models

# Each log's head is kept apart from it and moved by the database itself: the functions run as their owner, who is
# nobody that signs in (see grants.sql), and the server may only read the table. A log that was cut off, changed and
# hashed again, or taken away whole no longer fits its head. A chain begins with the hash of what its verdict rests on.
FORWARD = """
CREATE OR REPLACE FUNCTION bulwark_event_chain() RETURNS trigger LANGUAGE plpgsql
    SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
    head lessons_loghead%ROWTYPE;
BEGIN
    PERFORM pg_advisory_xact_lock(20487, NEW.bench_id::integer);
    SELECT * INTO head FROM lessons_loghead WHERE bench_id = NEW.bench_id;
    NEW.seq := coalesce(head.seq, 0) + 1;
    NEW.recorded_at := clock_timestamp();
    NEW.previous_hash := coalesce(head.hash, '');
    NEW.hash := encode(sha256(convert_to(concat_ws(E'\\n',
        NEW.previous_hash, NEW.bench_id, NEW.seq, NEW.uuid, NEW.kind, NEW.data::text,
        to_char(NEW.happened_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'),
        to_char(NEW.recorded_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'),
        NEW.recorded_by), 'UTF8')), 'hex');
    RETURN NEW;
END $$;

CREATE OR REPLACE FUNCTION bulwark_event_told() RETURNS trigger LANGUAGE plpgsql
    SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
    lesson bigint;
BEGIN
    UPDATE lessons_loghead SET seq = NEW.seq, hash = NEW.hash, at = NEW.recorded_at
        WHERE bench_id = NEW.bench_id RETURNING lesson_id INTO lesson;
    IF lesson IS NULL THEN
        INSERT INTO lessons_loghead (bench_id, lesson_id, rules, context, seq, hash, at)
            SELECT id, lesson_id, '', '', NEW.seq, NEW.hash, NEW.recorded_at FROM lessons_bench WHERE id = NEW.bench_id
            RETURNING lesson_id INTO lesson;
    END IF;
    PERFORM pg_notify('bulwark', lesson || ':' || NEW.bench_id || ':' || NEW.seq);
    RETURN NULL;
END $$;

CREATE FUNCTION bulwark_chain_begun(bench bigint, lesson bigint, rules text, context text) RETURNS void LANGUAGE sql
    SECURITY DEFINER SET search_path = public, pg_temp AS $$
    INSERT INTO lessons_loghead (bench_id, lesson_id, rules, context, seq, hash, at)
        VALUES (bench, lesson, rules, context, 0, context, clock_timestamp())
        ON CONFLICT (bench_id) DO NOTHING
$$;

INSERT INTO lessons_loghead (bench_id, lesson_id, rules, context, seq, hash, at)
    SELECT DISTINCT ON (e.bench_id) e.bench_id, b.lesson_id, '', '', e.seq, e.hash, e.recorded_at
    FROM lessons_event e JOIN lessons_bench b ON b.id = e.bench_id ORDER BY e.bench_id, e.seq DESC;
"""

_before = import_module("bulwark.lessons.migrations.0003_log_is_append_only").FORWARD.partition("CREATE TRIGGER")[0]
BACKWARD = "DROP FUNCTION bulwark_chain_begun(bigint, bigint, text, text);\n" + _before.replace(
    "CREATE FUNCTION", "CREATE OR REPLACE FUNCTION"
).replace("LANGUAGE plpgsql AS", "LANGUAGE plpgsql SECURITY INVOKER AS")


class Migration(migrations.Migration):

    dependencies = [
        ('lessons', '0007_devices'),
    ]

    operations = [
        migrations.CreateModel(
            name='LogHead',
            fields=[
                ('bench_id', models.BigIntegerField(primary_key=True, serialize=False)),
                ('lesson_id', models.BigIntegerField()),
                ('rules', models.CharField(blank=True, max_length=64)),
                ('context', models.CharField(blank=True, max_length=64)),
                ('seq', models.PositiveIntegerField(default=0)),
                ('hash', models.CharField(blank=True, max_length=64)),
                ('at', models.DateTimeField()),
            ],
            options={
                'ordering': ['bench_id'],
            },
        ),
        migrations.AlterField(
            model_name='event',
            name='bench',
            field=models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.PROTECT, related_name='events', to='lessons.bench'),
        ),
        migrations.RunSQL(FORWARD, BACKWARD),
    ]
