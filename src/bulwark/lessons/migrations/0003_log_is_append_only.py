from django.db import migrations

# The database itself keeps the chain, so that no writer can get it wrong: it numbers the entry,
# stamps it, hashes it with the entry before, and tells whoever listens. A lock per bench keeps
# two tablets from taking the same place (an advisory one: it writes nothing). ``verify_log`` computes the same text.
FORWARD = """
CREATE FUNCTION bulwark_event_chain() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    last_seq integer;
    last_hash text;
BEGIN
    PERFORM pg_advisory_xact_lock(20487, NEW.bench_id::integer);
    SELECT seq, hash INTO last_seq, last_hash
        FROM lessons_event WHERE bench_id = NEW.bench_id ORDER BY seq DESC LIMIT 1;
    NEW.seq := coalesce(last_seq, 0) + 1;
    NEW.recorded_at := clock_timestamp();
    NEW.previous_hash := coalesce(last_hash, '');
    NEW.hash := encode(sha256(convert_to(concat_ws(E'\\n',
        NEW.previous_hash, NEW.bench_id, NEW.seq, NEW.uuid, NEW.kind, NEW.data::text,
        to_char(NEW.happened_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'),
        to_char(NEW.recorded_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'),
        NEW.recorded_by), 'UTF8')), 'hex');
    RETURN NEW;
END $$;

CREATE FUNCTION bulwark_event_told() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM pg_notify('bulwark', (SELECT lesson_id FROM lessons_bench WHERE id = NEW.bench_id)
        || ':' || NEW.bench_id || ':' || NEW.seq);
    RETURN NULL;
END $$;

CREATE FUNCTION bulwark_event_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'the log is append-only: % refused', TG_OP USING ERRCODE = 'restrict_violation';
END $$;

CREATE TRIGGER event_chain BEFORE INSERT ON lessons_event
    FOR EACH ROW EXECUTE FUNCTION bulwark_event_chain();
CREATE TRIGGER event_told AFTER INSERT ON lessons_event
    FOR EACH ROW EXECUTE FUNCTION bulwark_event_told();
CREATE TRIGGER event_kept BEFORE UPDATE OR DELETE ON lessons_event
    FOR EACH ROW EXECUTE FUNCTION bulwark_event_kept();
CREATE TRIGGER event_table_kept BEFORE TRUNCATE ON lessons_event
    FOR EACH STATEMENT EXECUTE FUNCTION bulwark_event_kept();
"""

BACKWARD = """
DROP TRIGGER event_table_kept ON lessons_event;
DROP TRIGGER event_kept ON lessons_event;
DROP TRIGGER event_told ON lessons_event;
DROP TRIGGER event_chain ON lessons_event;
DROP FUNCTION bulwark_event_kept();
DROP FUNCTION bulwark_event_told();
DROP FUNCTION bulwark_event_chain();
"""


class Migration(migrations.Migration):
    dependencies = [("lessons", "0002_relations")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
