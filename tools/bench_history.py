"""Measure a workshop of 1,000 jobs and 100,000 log lines, each page beside a named baseline of the same run."""

import json
import shutil
import tempfile
from pathlib import Path

from bounds import Bounds, best_of

from fair_spindle.jobs.backup import back_up
from fair_spindle.jobs.board import see_board
from fair_spindle.jobs.book import all_jobs
from fair_spindle.jobs.history import see_history
from fair_spindle.records.books import load_log
from fair_spindle.records.database import Database
from fair_spindle.records.tables import BookRow, EventRow

JOBS, LINES, CARS = 1000, 100, 70
CAR = "bench-car"
NOTE = json.dumps({"kind": "noted", "text": "Generated for the measurement, words of about this length.", "step": ""})


def fill(database: Database) -> None:
    with database.writing() as session:
        session.add(
            BookRow(id=CAR, template="car", title="", car="Sample car 0", created_at="2026-01-01T08:00:00.000Z")
        )
        session.flush()
        for number in range(JOBS):
            moment = f"2026-{1 + number // 90:02}-{1 + number % 28:02}T08:00:00.000Z"
            title = f"{('Springs', 'Arms', 'Bars', 'Baseline')[number % 4]} {number}"
            session.add(
                BookRow(
                    id=f"bench-{number:05}",
                    template="work",
                    title=title,
                    car=f"Sample car {number % CARS}",
                    car_id=CAR if number % CARS == 0 else None,
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


def main() -> None:
    bounds = Bounds()
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "many.sqlite")
        empty = ("of an empty workshop", best_of(lambda: all_jobs(database, 50), 30))
        no_board = ("of an empty workshop", best_of(lambda: see_board(database), 10))
        fill(database)
        bounds.line(
            f"list of {JOBS} jobs, {JOBS * LINES} lines", best_of(lambda: all_jobs(database, 50), 15), empty, 8
        )
        bounds.line("search in them", best_of(lambda: all_jobs(database, 50, "arms car 7"), 15), empty, 8)
        bounds.line("board of them", best_of(lambda: see_board(database), 5), no_board, 40)
        one = ("log of one job read", best_of(lambda: read_log(database), 15))
        bounds.line(
            f"history of a car with {JOBS // CARS + 1} jobs", best_of(lambda: see_history(database, CAR), 5), one, 60
        )
        copied = best_of(lambda: shutil.copy(Path(folder) / "many.sqlite", Path(folder) / "copied"), 5)
        bounds.line(
            "backup of all, packed", best_of(lambda: back_up(database), 3), ("file copied by the system", copied), 100
        )
        database.close()
    bounds.end()


def read_log(database: Database) -> None:
    with database.reading() as session:
        load_log(session, "bench-00000")


if __name__ == "__main__":
    main()
