"""Measure the list of jobs in a workshop of 1,000 jobs and 100,000 log entries, beside a named baseline."""

import json
import statistics
import tempfile
import time
from pathlib import Path

from fair_spindle.jobs.book import all_jobs
from fair_spindle.records.database import Database
from fair_spindle.records.tables import BookRow, EventRow

JOBS, LINES = 1000, 100
AIM_MS = 100
NOTE = json.dumps({"kind": "noted", "text": "Generated for the measurement, words of about this length.", "step": ""})


def fill(database: Database) -> None:
    with database.writing() as session:
        for number in range(JOBS):
            moment = f"2026-{1 + number // 90:02}-{1 + number % 28:02}T08:00:00.000Z"
            title = f"{('Springs', 'Arms', 'Bars', 'Baseline')[number % 4]} {number}"
            session.add(
                BookRow(
                    id=f"bench-{number:05}",
                    template="work",
                    title=title,
                    car=f"Sample car {number % 70}",
                    created_at=moment,
                )
            )
        session.flush()
        for number in range(JOBS):
            session.add_all(
                EventRow(
                    book_id=f"bench-{number:05}",
                    seq=seq,
                    id=f"line-{seq:04}",
                    at=f"2026-{1 + number // 90:02}-{1 + number % 28:02}T08:{seq // 60:02}:{seq % 60:02}.000Z",
                    kind="noted",
                    act=NOTE,
                )
                for seq in range(1, LINES + 1)
            )


def timed(work, rounds=15) -> float:
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return 1000 * statistics.median(times)


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "many.sqlite")
        baseline = timed(lambda: all_jobs(database, 50))
        fill(database)
        whole = timed(lambda: all_jobs(database, 50))
        sought = timed(lambda: all_jobs(database, 50, "arms car 7"))
        database.close()
    print(f"baseline: list of an empty workshop: {baseline:.1f} ms")
    print(
        f"list of {JOBS} jobs with {JOBS * LINES} entries: {whole:.1f} ms, {whole / baseline:.0f} × (aim {AIM_MS} ms)"
    )
    print(f"search in them: {sought:.1f} ms, {sought / baseline:.0f} ×")


if __name__ == "__main__":
    main()
