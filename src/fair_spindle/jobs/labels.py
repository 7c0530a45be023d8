"""Labels for the bags that the fasteners of a job wait in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from urllib.parse import quote

from fair_spindle.core.basics.errors import NotAllowed
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.formats.labels_pdf import Label, write_labels
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.joints import say_thread
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.database import Database


def print_labels(database: Database, job_id: str, address: str) -> bytes:
    """A label for each joint of a job, and for what came off beside the plan; ``address`` is where the pages are.

    NotAllowed where there is nothing to put in a bag.
    """
    now = standing(database, job_id)
    labels = list(_labels(now, f"{address.rstrip('/')}/job/{quote(job_id)}"))
    if not labels:
        raise NotAllowed("No joint is drawn and nothing came off yet: there is nothing to label.")
    return write_labels(now.book.car, labels)


def _labels(now: Standing, job: str) -> Iterator[Label]:
    head = f"{now.book.car} · {now.book.title}"
    for joint in now.state.joints.values():
        yield Label(head, joint.label, tuple(_contents(joint)), f"{job}/bolts?joint={quote(joint.key)}")
    for _, off, _ in now.state.taken_off:
        small = (f"{off.fasteners} small fasteners",) if off.fasteners else ()
        lies = (f"lies: {off.place}",) if off.place else ()
        yield Label(head, off.name, small + lies, f"{job}/floor")


def _contents(joint: Joint) -> Iterator[str]:
    """So many of each thread, with its drive; single-use ones are to be new."""
    kinds = Counter((say_thread(bolt), bolt.head, bolt.nut, bolt.single_use) for bolt in joint.bolts)
    for (thread, head, nut, single_use), count in kinds.items():
        drives = [head, f"nut {nut}" if nut else "", "new ones go in" if single_use else ""]
        what = f"× {thread}" if thread else "of a thread not told"
        yield ", ".join([f"{count} {what}", *filter(None, drives)])
