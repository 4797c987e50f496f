"""The database of a test process: a copy of the one `./reed test` made (`ops/test_database.py`), emptied where a test
committed to it."""

import os

import psycopg
import pytest
from django.db import connection
from django.test import TransactionTestCase

from ops.test_database import copy_name

_HELD_ROWS = """
    SELECT quote_ident(relname) FROM pg_class
    WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace AND pg_relation_size(oid) > 0
      AND relname NOT IN ('django_migrations', 'django_content_type', 'auth_permission')
"""
"""A table that never held a row since it was emptied takes no space: TRUNCATE would only cost time."""


@pytest.fixture(scope="session")
def django_db_setup(django_db_blocker):
    """Copy the template for this process; drop the copy afterwards."""
    worker = os.environ.get("PYTEST_XDIST_WORKER", "main")
    name, template = copy_name(worker), os.environ["REED_TEST_TEMPLATE"]
    given = connection.settings_dict
    before = given["NAME"]
    address = psycopg.conninfo.make_conninfo(
        host=given["HOST"],
        port=given["PORT"],
        user=given["USER"],
        password=given["PASSWORD"],
        dbname=before,
    )
    with django_db_blocker.unblock():
        with psycopg.connect(address, autocommit=True) as server:
            server.execute(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')
            server.execute(f'CREATE DATABASE "{name}" TEMPLATE "{template}"')
        connection.close()
        given["NAME"] = name
        yield
        connection.close()
        given["NAME"] = before
        with psycopg.connect(address, autocommit=True) as server:
            server.execute(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')


def empty_touched_tables(_case=None):
    """In place of Django's flush, which empties every table and writes all permissions anew."""
    with connection.cursor() as cursor:
        cursor.execute(_HELD_ROWS)
        if names := [name for (name,) in cursor.fetchall()]:
            cursor.execute(f"TRUNCATE {', '.join(names)} RESTART IDENTITY CASCADE")


@pytest.fixture(scope="session", autouse=True)
def only_touched_tables_are_emptied():
    usual = TransactionTestCase._fixture_teardown
    TransactionTestCase._fixture_teardown = empty_touched_tables
    yield
    TransactionTestCase._fixture_teardown = usual
