"""What `tests/web/test_unreadable.py` and others make and look at."""

from django.db import connection


def spoil(table, column, value, row):
    """As by a slip of somebody's hand in the database, past every form."""
    with connection.cursor() as cursor:
        cursor.execute("SET session_replication_role = replica")
        cursor.execute(f"UPDATE {table} SET {column} = %s WHERE id = %s", [value, row.pk])
        cursor.execute("SET session_replication_role = DEFAULT")
