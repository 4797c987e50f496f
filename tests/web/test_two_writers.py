"""What works beside the server and what a request changes meet at one client: the one waits for the other."""

import threading

import pytest
from django.db import connection, transaction

from web.clients.models import Client
from web.clients.signals import record_changed
from web.review.models import CaseloadRow
from web.review.usecases.session_results import save_results

pytestmark = pytest.mark.django_db(transaction=True)


def test_they_never_wait_for_each_other(home, version, person):
    waits, went_wrong = threading.Event(), []

    def beside():
        """As the worker: the row in hand first, then what came of the home sessions."""
        try:
            with transaction.atomic():
                CaseloadRow.objects.select_for_update().get(client=person)
                waits.set()
                until_blocked()
                save_results(person, every=True)
        except Exception as error:  # noqa: BLE001 - whatever it is, it is told
            went_wrong.append(error)
        finally:
            connection.close()

    def until_blocked():
        """Until the other one waits for the row."""
        sql = "SELECT count(*) FROM pg_stat_activity WHERE wait_event_type = 'Lock' AND datname = current_database()"
        for _ in range(2_000):
            with connection.cursor() as cursor:
                cursor.execute(sql)
                if cursor.fetchone() != (0,):
                    return
        raise AssertionError("nobody waited")

    other = threading.Thread(target=beside)
    other.start()
    assert waits.wait(10)
    with transaction.atomic():
        record_changed.send(Client, client_id=person.pk)
    other.join(20)
    assert went_wrong == []
