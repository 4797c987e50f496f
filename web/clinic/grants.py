"""What the application's database role may do; applied after every migration by the owner."""

from django.apps import apps
from django.conf import settings
from django.db import connection

from web.clinic.records import StoredRow

ERASE = """
CREATE OR REPLACE FUNCTION erase_client(erased uuid) RETURNS integer
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE place record; total integer := 0; gone integer; tries integer := 0;
BEGIN
  -- Whoever writes to the record meets one of these rows first, waits there, and then finds that it is gone. Only for
  -- the first is waited: waiting for another while that is held, two would wait for each other.
  LOOP
    BEGIN
      PERFORM 1 FROM review_caseloadrow WHERE client_id = erased FOR UPDATE;
      PERFORM 1 FROM practice_homesession WHERE client_id = erased FOR UPDATE NOWAIT;
      PERFORM 1 FROM clients_client WHERE id = erased FOR UPDATE NOWAIT;
      EXIT;
    EXCEPTION WHEN lock_not_available THEN
      tries := tries + 1;
      IF tries > 500 THEN RAISE; END IF;
      PERFORM pg_sleep(0.005 + 0.02 * random());
    END;
  END LOOP;
  SET CONSTRAINTS ALL DEFERRED;
  FOR place IN
    SELECT c.table_name FROM information_schema.columns c
    JOIN information_schema.tables t USING (table_schema, table_name)
    WHERE c.table_schema = 'public' AND c.column_name = 'client_id'
      AND t.table_type = 'BASE TABLE' ORDER BY c.table_name LIKE '%event', c.table_name
  LOOP
    EXECUTE format('DELETE FROM %I WHERE client_id = $1', place.table_name) USING erased;
    GET DIAGNOSTICS gone = ROW_COUNT;
    total := total + gone;
  END LOOP;
  DELETE FROM clients_client WHERE id = erased;
  GET DIAGNOSTICS gone = ROW_COUNT;
  total := total + gone;
  FOR place IN
    SELECT c.table_name FROM information_schema.columns c
    WHERE c.table_schema = 'public' AND c.column_name = 'client_id' AND c.table_name LIKE '%event'
  LOOP
    EXECUTE format('DELETE FROM %I WHERE client_id = $1', place.table_name) USING erased;
  END LOOP;
  DELETE FROM clients_clientevent WHERE pgh_obj_id = erased;
  RETURN total;
END $$;
"""


def insert_only_tables() -> list[str]:
    """Tables the application may add to but never change: events, attempts, measurements."""
    return sorted(
        model._meta.db_table
        for model in apps.get_models()
        if hasattr(model, "pgh_tracked_model") or getattr(model, "insert_only", False)
    )


def kept_tables() -> list[str]:
    """Tables of a clinic's records from which the application takes no row away: a record is erased by the
    owner's function alone. What is worked out anew or was promised to be erased says so (`taken_away`)."""
    return sorted(
        model._meta.db_table
        for model in apps.get_models()
        if issubclass(model, StoredRow) and not getattr(model, "taken_away", False)
    )


def changing_columns() -> dict[str, tuple[str, ...]]:
    """The columns that may change, of tables whose other columns are history."""
    found = {model._meta.db_table: getattr(model, "changing", ()) for model in apps.get_models()}
    return {table: columns for table, columns in found.items() if columns}


def grant_application_role(app_config, **kwargs) -> None:
    """Give the role reading and writing, but only inserting where history is kept."""
    if app_config.label != "review":
        return
    role = connection.ops.quote_name(settings.APPLICATION_ROLE)
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", [settings.APPLICATION_ROLE])
        if cursor.fetchone() is None:
            return
        cursor.execute(ERASE)
        cursor.execute("REVOKE ALL ON FUNCTION erase_client(uuid) FROM PUBLIC")
        cursor.execute(f"GRANT EXECUTE ON FUNCTION erase_client(uuid) TO {role}")
        cursor.execute(f"GRANT USAGE ON SCHEMA public TO {role}")
        cursor.execute(
            f"GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO {role}"
        )
        cursor.execute(f"GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO {role}")
        for table in insert_only_tables():
            name = connection.ops.quote_name(table)
            cursor.execute(f"REVOKE UPDATE, DELETE, TRUNCATE ON {name} FROM {role}")
        for table in kept_tables():
            name = connection.ops.quote_name(table)
            cursor.execute(f"REVOKE DELETE, TRUNCATE ON {name} FROM {role}")
        for table, columns in changing_columns().items():
            name = connection.ops.quote_name(table)
            cursor.execute(f"REVOKE UPDATE ON {name} FROM {role}")
            own = ", ".join(map(connection.ops.quote_name, columns))
            cursor.execute(f"GRANT UPDATE ({own}) ON {name} TO {role}")
