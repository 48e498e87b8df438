"""Benchmarks of the records: a list of a thousand sites, cold."""

import statistics
import time
from typing import Any

from sqlalchemy import text

from tools.served import throwaway_cluster
from yonderstat.core.design import design_from_document
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.jobs import judge
from yonderstat.records import Archive, migrate, open_engine
from yonderstat.web import create_app

SITES, ROUNDS = 1000, 5
COPY = """
with made as (
  insert into sites (id, name) select gen_random_uuid(), 'Site ' || n from generate_series(2, :count) n returning id
), designed as (
  insert into designs (id, site_id, position, as_built, revision)
  select gen_random_uuid(), id, 0, true, 1 from made returning id
)
insert into revisions (design_id, number, action, document, line, line_by)
select designed.id, 1, 'create', r.document, r.line, r.line_by from designed, revisions r
"""


def records_figures() -> dict[str, tuple[float, str]]:
    """How long a list of a thousand sites takes, each time from a fresh application, and its size a
    site."""
    with throwaway_cluster("bench-records") as cluster:
        migrate(cluster.url)
        engine = open_engine(cluster.url)
        design = design_from_document(HARRIER_AS_BUILT)
        Archive(engine).add_site("Site 1", design, line=judge(design).line)
        with engine.begin() as connection:
            connection.execute(text(COPY), {"count": SITES})
        engine.dispose()
        times, answer = [], b""
        for _ in range(ROUNDS):
            client: Any = create_app(cluster.url).test_client()
            began = time.perf_counter()
            answer = client.get("/api/sites", base_url="http://127.0.0.1").get_data()
            times.append(time.perf_counter() - began)
        return {
            "sites_1000_ms": (statistics.median(times) * 1000.0, "ms"),
            "sites_wire_kb": (len(answer) / 1000.0 / SITES, "kB"),
        }
