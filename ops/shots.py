"""`./reed shots`: the demo on its own port and database, a fixed day, real pages to PNG."""

import json

from ops.inside import run_inside
from ops.phases import ROOT, RUN, phase
from ops.postgres import FAST_AND_LOOSE, Cluster, free_port
from ops.site import Site, end
from ops.start import prepare

TODAY = "2026-06-15"
LINKS = (
    "SELECT json_object_agg(person.name, access.id) FROM clients_clientaccess access "
    "JOIN clients_client person ON person.id = access.client_id WHERE access.revoked_at IS NULL"
)
FOLDER = ROOT / "docs" / "screenshots"


def run(arguments: list[str]) -> int:
    """Photograph every main view; leaves nothing running."""
    prepare("dev")
    cluster = Cluster(RUN / "pg-shots", FAST_AND_LOOSE)
    with phase("database"):
        cluster.start()
    try:
        site = Site(cluster=cluster, port=free_port(), today=TODAY)
        with phase("tables"):
            site.migrate()
        with phase("demo data"):
            sign_ins = site.load_demo(fresh=True)
        server = site.serve()
        try:
            FOLDER.mkdir(parents=True, exist_ok=True)
            links = cluster.run("psql", "-XAtc", LINKS)
            told = {
                "address": site.address,
                "sign_ins": sign_ins,
                "folder": str(FOLDER),
                "links": links,
            }
            with phase("photographs"):
                return run_inside("lab.photographs", [json.dumps(told)])
        finally:
            end(server)
    finally:
        cluster.stop()
