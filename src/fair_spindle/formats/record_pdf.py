"""The record as a printable sheet: black on white, A4, made from what the record view shows."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from fair_spindle.formats.pdf_drawings import height_ladder, in_rows, joint_map, travel_curve
from fair_spindle.formats.pdf_pages import lines, pages, table, words

MOST_FITTED, MOST_BACK = 12, 6
CAUTION = (
    "The vehicle maker's service data outranks this sheet. Counted turns bring the car to the alignment "
    "rack, they do not replace it. ± is stated with coverage factor 2."
)


def write_record(job: Mapping[str, Any]) -> bytes:
    """Lay out a job's record, as shown to the interface, on A4 pages."""
    return pages(f"{job['car']}: {job['title']}", _story(job))


def write_customer_sheet(job: Mapping[str, Any]) -> bytes:
    """One page for whoever drives the car: what was fitted, how it stood and stands, what is still to be done."""
    names = ("label", "before", "measured", "change")
    rows = [tuple(one[name] for name in names) for one in job["beside"] if one["before"] or one["measured"]]
    booked = [finding["message"] for finding in job["findings"] if finding["code"] == "jam_for_the_rack"]
    story = [
        words(job["car"], "head"),
        words(f"{job['title']} · {job['created_at'][:10]}"),
        *lines("Fitted", job["fitted"][:MOST_FITTED]),
        *([words("Before and after", "part"), table(("", "Before", "After", "Changed by"), rows)] if rows else []),
        *lines("Please come back for", [*_again(job["rechecks"]), *booked[:MOST_BACK]]),
        *lines("From the workshop", [note["text"] for note in job["notes"] if not note["step"]][:MOST_BACK]),
        *_signature(job),
        words(CAUTION),
    ]
    return pages(f"{job['car']}: {job['title']}", story)


def _again(rechecks: Sequence[str]) -> list[str]:
    """What is checked after the first drives; many in one line, the workshop's own sheet names each."""
    if len(rechecks) <= MOST_BACK:
        return list(rechecks)
    return [f"{len(rechecks)} joints checked again after the first drives: the workshop's sheet names each."]


def _story(job: Mapping[str, Any]) -> list[Any]:
    return [
        words(job["car"], "head"),
        words(f"{job['title']} · begun {job['created_at'][:10]} · car {job['position_said']}"),
        *_signature(job),
        *lines("Fitted", job["fitted"]),
        *(_beside(job["beside"]) or _measured(job)),
        *_loads(job["sits"]),
        *_turns(job["turns"]),
        *_at_work(job["at_work"]),
        *_curves(job["curves"]),
        *_tightened(job),
        *lines("Checked again", job["rechecks"]),
        *lines("Cautions", job["cautions"]),
        *lines("Overrides", [f"{o['at'][:16]} {', '.join(o['places'])}: {o['reason']}" for o in job["overrides"]]),
        *lines("Open items", _open_items(job)),
        *lines("Notes", [note["text"] for note in job["notes"]]),
        *_readings(job["readings"]),
        *_taken_over(job["taken_over"]),
        words(CAUTION),
    ]


def _beside(rows: Sequence[Mapping[str, Any]]) -> list[Any]:
    """Heights and angles: before, wanted, predicted, settled."""
    if not rows:
        return []
    names = ("label", "before", "wanted", "predicted", "measured", "change", "miss")
    told = [tuple(f"{'! ' if name == 'miss' and row['beyond'] else ''}{row[name]}" for name in names) for row in rows]
    head = ("", "Before", "Wanted", "Predicted", "After", "Changed by", "Missed by (! more than its ±)")
    return [words("Heights and angles", "part"), table(head, told)]


def _loads(sits: Sequence[Mapping[str, Any]]) -> list[Any]:
    """Loads before and after, and the heights drawn, of a job on springs."""
    if not sits:
        return []
    weighed = [sit for sit in sits if sit["load_n"] is not None]
    rows = [(sit["label"], f"{sit['load_before_n']:.0f}", f"{sit['load_n']:.0f}") for sit in weighed]
    ladders = [
        height_ladder(
            sit["label"],
            [
                ("before", sit["height_mm"]),
                ("predicted", sit["predicted_mm"]),
                ("wanted", sit["target_mm"]),
                ("settled", sit["measured_mm"]),
            ],
        )
        for sit in sits
    ]
    head = ("", "Load before, N", "Load after, N")
    loads = [table(head, rows)] if rows else []
    return [words("Heights and loads" if rows else "Heights", "part"), *loads, in_rows(ladders, 4)]


def _turns(turns: Sequence[Mapping[str, Any]]) -> list[Any]:
    rows = [(turn["where"], turn["name"], turn["planned"], turn["given"]) for turn in turns]
    return [words("Turns given", "part"), table(("", "Adjuster", "Planned", "Given"), rows)] if rows else []


def _at_work(read: Sequence[Mapping[str, Any]]) -> list[Any]:
    rows = [(one["label"], one["before"], one["after"], one["change"]) for one in read]
    return [words("Read at the steps", "part"), table(("", "Before", "After", "Changed by"), rows)] if rows else []


def _curves(curves: Sequence[Mapping[str, Any]]) -> list[Any]:
    """Camber and toe through the travel of every wheel whose points are known."""
    drawn = [travel_curve(curve) for curve in curves if curve["travel_mm"]]
    return (
        [words("Camber (solid) and toe (dashed) through the travel, °", "part"), in_rows(drawn, 4)] if drawn else []
    )


def _tightened(job: Mapping[str, Any]) -> list[Any]:
    """Every place that was worked on, and the maps of the larger joints."""
    names = ("joint", "places", "thread", "specified", "source", "said", "how")
    rows = [tuple(one[name] for name in names) for one in job["tightened"]]
    if not rows:
        return []
    head = ("Joint", "Place", "Thread", "Specified", "Source", "As it stands", "Car, instrument")
    joints = job["joints"]
    maps = [
        joint_map(joint) for joint in joints if len(joint["bolts"]) > 2 and any(b["stage"] for b in joint["bolts"])
    ]
    drawn = [in_rows(maps, 3)] if maps else []
    return [words("Joints", "part"), table(head, rows), *drawn]


def _readings(entries: Sequence[Mapping[str, Any]]) -> list[Any]:
    rows = [(entry["label"], entry["said"], entry["understood"], _how(entry)) for entry in entries]
    return [words("Readings as taken", "part"), table(("Reading", "As typed", "Understood", "Taken"), rows)]


def _taken_over(entries: Sequence[Mapping[str, Any]]) -> list[Any]:
    """What came with the car's record, two to a line."""
    if not entries:
        return []
    cells = [cell for entry in entries for cell in (entry["label"], entry["understood"])]
    cells += [""] * (len(cells) % 4)
    rows = [tuple(cells[at : at + 4]) for at in range(0, len(cells), 4)]
    return [words("From the car's record", "part"), table(("", "", "", ""), rows)]


def _measured(job: Mapping[str, Any]) -> list[Any]:
    names = ("height", "toe", "camber", "caster")
    return [
        words("The four wheels", "part"),
        table(
            ("", "Height", "Toe", "Camber", "Caster", "Load"),
            [(w["label"], *(w[name] for name in names), _load(w)) for w in job["wheels"]],
        ),
    ]


def _load(wheel: Mapping[str, Any]) -> str:
    return f"{'about ' if wheel['load_estimated'] else ''}{wheel['load']}" if wheel["load"] else ""


def _how(entry: Mapping[str, Any]) -> str:
    """With what, from where, and what was wrong with how it was read."""
    return "; ".join(filter(None, (entry["gauge"], entry["source"], *entry["flags"], entry["doubt"])))


def _signature(job: Mapping[str, Any]) -> list[Any]:
    signature = job["signature"]
    if not signature:
        return [words("Not signed.", "bold")]
    state = "The log is as it was signed." if signature["intact"] else "THE LOG WAS CHANGED AFTER SIGNING."
    return [
        words(f"Signed by {signature['name']}, {signature['at'][:16].replace('T', ' ')} UTC. {state}", "bold"),
        words(f"Fingerprint {signature['digest']}"),
    ]


def _open_items(job: Mapping[str, Any]) -> list[str]:
    signature = job["signature"]
    if signature:
        return list(signature["listed"])
    return [f["message"] for f in job["findings"] if f["severity"] != "note"]
