"""What a kept attempt takes of the disk, with its indexes and its share of the home session around it."""

from django.db import connection

OF_PRACTICE = (
    "practice_",
    "measuring_measurement",
    "measuring_storedcontour",
    "review_sessionresult",
)
_SIZES = """
SELECT relname, pg_total_relation_size(oid) FROM pg_class
WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace
"""


def bytes_an_attempt() -> dict[str, float]:
    """Bytes of the disk for each attempt, by table, largest first; those under 5 bytes are left out."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT count(*) FROM practice_attempt")
        (attempts,) = cursor.fetchone()
        cursor.execute(_SIZES)
        sizes = {
            name: size / max(attempts, 1)
            for name, size in cursor.fetchall()
            if name.startswith(OF_PRACTICE)
        }
    most = sorted(sizes.items(), key=lambda one: -one[1])
    return {name: size for name, size in most if size >= 5}
