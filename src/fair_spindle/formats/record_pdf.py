"""The record as a printable sheet: black on white, A4, made from what the record view shows."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from fair_spindle.formats.pdf_drawings import height_ladder, in_rows, joint_map, travel_curve
from fair_spindle.formats.pdf_pages import Row, lines, pages, table, words

CAUTION = (
    "The vehicle maker's service data outranks this sheet. Counted turns bring the car to the alignment "
    "rack, they do not replace it. ± is stated with coverage factor 2."
)


def write_record(job: Mapping[str, Any]) -> bytes:
    """Lay out a job's record, as shown to the interface, on A4 pages."""
    return pages(f"{job['car']}: {job['title']}", _story(job))


def _story(job: Mapping[str, Any]) -> list[Any]:
    return [
        words(job["car"], "head"),
        words(f"{job['title']} · begun {job['created_at'][:10]} · car {job['position_said']}"),
        *_signature(job),
        *lines("Fitted", job["fitted"]),
        *(_tightened(job) if job["groups"] else _measured(job)),
        *_heights(job["sits"]),
        *_curves(job["curves"]),
        *_joints(job["joints"]),
        *lines("Checked again", job["rechecks"]),
        *lines("Cautions", job["cautions"]),
        *lines("Overrides", [f"{o['at'][:16]} {', '.join(o['places'])}: {o['reason']}" for o in job["overrides"]]),
        *lines("Open items", _open_items(job)),
        *lines("Notes", [note["text"] for note in job["notes"]]),
        words("Readings as taken", "part"),
        table(
            ("Reading", "As typed", "Understood", "Taken"),
            [(e["label"], e["said"], e["understood"], _how(e)) for e in job["entries"].values()],
        ),
        words(CAUTION),
    ]


def _tightened(job: Mapping[str, Any]) -> list[Any]:
    return [
        words("Heights, toe, turns", "part"),
        table(
            ("", "Height before", "Predicted", "Settled", "Toe before", "Wanted", "Settled", "Off", "On"),
            [_corner_row(job, side) for side in ("left", "right")],
        ),
        words("Tightening", "part"),
        table(("Fastener", "Specified", "Source", "Left", "Right"), [_group_row(g) for g in job["groups"]]),
    ]


def _heights(sits: Sequence[Mapping[str, Any]]) -> list[Any]:
    """Heights before, predicted, wanted and settled, and loads, of a job on springs."""
    if not sits:
        return []
    rows = [
        (
            one["label"],
            _mm(one["height_mm"]),
            f"{_mm(one['predicted_mm'])} ± {one['predicted_plus_minus_mm']:.1f}" if one["predicted_mm"] else "",
            _mm(one["target_mm"]),
            _mm(one["measured_mm"]),
            f"{one['load_before_n']:.0f}",
            f"{one['load_n']:.0f}",
        )
        for one in sits
    ]
    head = ("", "Height before, mm", "Predicted", "Wanted", "Settled", "Load before, N", "Load after")
    ladders = [
        height_ladder(
            one["label"],
            [
                ("before", one["height_mm"]),
                ("predicted", one["predicted_mm"]),
                ("wanted", one["target_mm"]),
                ("settled", one["measured_mm"]),
            ],
        )
        for one in sits
    ]
    return [words("Heights and loads", "part"), table(head, rows), in_rows(ladders, 4)]


def _curves(curves: Sequence[Mapping[str, Any]]) -> list[Any]:
    """Camber and toe through the travel of every wheel whose points are known."""
    drawn = [travel_curve(one) for one in curves if one["travel_mm"]]
    return (
        [words("Camber (solid) and toe (dashed) through the travel, °", "part"), in_rows(drawn, 4)] if drawn else []
    )


def _mm(length: float | None) -> str:
    return "" if length is None else f"{length:.1f}"


def _joints(joints: Sequence[Mapping[str, Any]]) -> list[Any]:
    """Every place that was worked on: thread, specification with its source, how it stands."""
    rows = [
        (joint["label"], str(one["number"]), one["thread"], one["spec"], one["source"], one["said"])
        for joint in joints
        for one in joint["bolts"]
        if one["stage"]
    ]
    if not rows:
        return []
    head = ("Joint", "Place", "Thread", "Specified", "Source", "As it stands")
    maps = [joint_map(one) for one in joints if len(one["bolts"]) > 2 and any(b["stage"] for b in one["bolts"])]
    drawn = [in_rows(maps, 3)] if maps else []
    return [words("Joints", "part"), table(head, rows), *drawn]


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


def _corner_row(job: Mapping[str, Any], side: str) -> Row:
    corner, counts = job["corners"][side], job["counts"][side]
    check = corner["check"]
    return (
        side.capitalize(),
        _length(corner["height_now"]),
        _length(corner["height_predicted"]),
        _length(check["height"]),
        _also(corner["toe_now"]),
        _also(corner["toe_target"]),
        _also(check["toe"]),
        counts["off"]["said"],
        counts["on"]["said"],
    )


def _group_row(group: Mapping[str, Any]) -> Row:
    spec = group["spec"]
    sides = ["\n".join(_place(p) for p in group["places"] if p["side"] == side) for side in ("left", "right")]
    return (group["label"], spec["said"] if spec else "none entered", spec["source"] if spec else "", *sides)


def _place(place: Mapping[str, Any]) -> str:
    reached = place["reading"] or (
        f"by feel, {place['by_feel']}" if place["by_feel"] else place["stage"] or "as found"
    )
    tail = f" at {place['clamp']}" if place["clamp"] else ""
    override = f" OVERRIDE: {place['overridden']}" if place["overridden"] else ""
    return f"{place['number']}: {reached}{tail}{override}"


def _length(number: Mapping[str, Any] | None) -> str:
    if not number:
        return ""
    spread = f" ± {number['plus_minus']:.1f}" if number["plus_minus"] else ""
    return f"{number['value']:.1f}{spread} mm"


def _also(number: Mapping[str, Any] | None) -> str:
    return str(number["also"]) if number else ""
