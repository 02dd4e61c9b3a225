-- Who may do what in the database. Run by the owner of the tables after every migration (manage.py prepare); it
-- may be run again. Where the roles do not exist, the owner does everything, and nothing here happens.
DO $$
BEGIN
    IF EXISTS (SELECT FROM pg_roles WHERE rolname = 'bulwark_keeper') THEN
        -- Owns the heads of the logs and the functions that move them. Nobody signs in as this role.
        GRANT USAGE, CREATE ON SCHEMA public TO bulwark_keeper;
        ALTER TABLE lessons_loghead OWNER TO bulwark_keeper;
        ALTER FUNCTION bulwark_event_chain() OWNER TO bulwark_keeper;
        ALTER FUNCTION bulwark_event_told() OWNER TO bulwark_keeper;
        ALTER FUNCTION bulwark_chain_begun(bigint, bigint, text, text) OWNER TO bulwark_keeper;
        ALTER FUNCTION bulwark_purge_event(bigint, jsonb) OWNER TO bulwark_keeper;
        REVOKE CREATE ON SCHEMA public FROM bulwark_keeper;
        GRANT SELECT ON lessons_bench TO bulwark_keeper;
        -- Names and words are taken out of an entry by the keeper's own function, and nothing else of it is changed.
        GRANT SELECT, UPDATE ON lessons_event TO bulwark_keeper;
        REVOKE EXECUTE ON FUNCTION bulwark_purge_event(bigint, jsonb) FROM PUBLIC;
    END IF;
    IF EXISTS (SELECT FROM pg_roles WHERE rolname = 'bulwark_web') THEN
        -- What the server signs in as: it reads and adds to a log, and changes none.
        GRANT USAGE ON SCHEMA public TO bulwark_web;
        GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO bulwark_web;
        GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO bulwark_web;
        REVOKE ALL ON lessons_event, lessons_loghead, lessons_lessonseal, lessons_lessonpurge, django_migrations FROM bulwark_web;
        GRANT SELECT, INSERT ON lessons_event, lessons_lessonseal, lessons_lessonpurge TO bulwark_web;
        GRANT EXECUTE ON FUNCTION bulwark_purge_event(bigint, jsonb) TO bulwark_web;
        GRANT SELECT ON lessons_loghead, django_migrations TO bulwark_web;
        GRANT EXECUTE ON FUNCTION bulwark_chain_begun(bigint, bigint, text, text) TO bulwark_web;
    END IF;
END $$;
