"""After an exercise: what it came to, in words and bars, and what would have paid most."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from fair_spindle.core.basics.errors import NotAllowed, SpindleError
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.log import Event
from fair_spindle.core.joblog.plan_now import MOVES
from fair_spindle.core.joblog.reducer import derive_on, effective, opening
from fair_spindle.core.joblog.rules import permit
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.jobs import practice_models as m
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.practice_cars import marked, truth_of
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.practice.axles import MOST_BUMP
from fair_spindle.practice.debrief import RULE, Debrief, debrief
from fair_spindle.practice.misses import COUNT, FORESEEN, READING, UNREAD, UNSETTLED, Row
from fair_spindle.records.database import Database


def is_over(now: Standing) -> bool:
    """Signed, or driven: the plan's road test is done."""
    return bool(now.state.signature) or "road" in now.state.steps


def see_debrief(database: Database, job_id: str, *, give_up: bool = False) -> m.DebriefView:
    """Truth beside belief, where the difference came from, what was done out of order, and the score.

    Before the car was driven or the record signed only who gives up sees it, and there is no score.
    """
    now = standing(database, job_id)
    exercise, _, _ = marked(now)
    if not (is_over(now) or give_up):
        raise NotAllowed("The debrief shows the truth once the car was driven, or the record is signed.")
    faults = list(_faults(now))
    skipped = sum(act.outcome == "skipped" for _, act in now.state.steps.values())
    moves = sum(step.key.startswith(MOVES) for step in now.template.steps)
    sets_angles = any(fitting["procedure"] == "align" for fitting in exercise.fittings)
    truth, foreseen = truth_of(now.book.practice), {wheel.key: wheel.change for wheel in now.sitting.wheels}
    found = debrief(truth, effective(now.log), sets_angles, len(faults), skipped, moves, foreseen)
    begun, ended = (datetime.fromisoformat(event.at) for event in (now.log[0], now.log[-1]))
    return m.DebriefView(
        title=exercise.title,
        learn=exercise.learn,
        score=found.score if is_over(now) else None,
        rule=RULE,
        rows=[_debriefed(row) for row in found.rows],
        steering_before=found.steering[0],
        steering_after=found.steering[1],
        wound=[
            f"{label_wheel(key)}: rubber wound by {abs(by):.0f} mm of wheel travel"
            for key, by in found.wound.items()
            if abs(by) > 5
        ],
        shackles=[
            f"{label_wheel(key)}: the shackle met its bracket after {before:.0f} mm of bump, now "
            f"{'not at all' if left >= MOST_BUMP else f'after {left:.0f} mm'}"
            for key, (before, left) in found.shackles.items()
        ],
        wrench=_say_wrench(truth.wrench, found.torqued),
        faults=faults,
        minutes_taken=(ended - begun).total_seconds() / 60,
        minutes_given=exercise.minutes,
        pays_most=_pays_most(found),
    )


def _say_wrench(share: float, bolts: int) -> str:
    """What the bay's wrench really gives, where bolts were tightened by its reading."""
    if not bolts:
        return ""
    more = "more" if share > 0 else "less"
    carry = "1 torque carries" if bolts == 1 else f"{bolts} torques carry"
    return f"The bay's wrench gives {abs(100 * share):.1f} % {more} than it shows; {carry} that."


# How much fills a bar from its middle to its end, by unit.
_FULL = {"°": 0.5, "mm": 15.0, "%": 3.0, "N": 200.0}


def _debriefed(row: Row) -> m.DebriefRow:
    off = 0.0 if row.wanted is None else row.truth - row.wanted
    bar = 2 * _FULL[row.unit]
    return m.DebriefRow(
        where=label_wheel(row.wheel) if row.wheel in WHEELS else "Whole car",
        **{name: getattr(row, name) for name in ("what", "unit", "wanted", "truth", "read")},
        off=off,
        drawn=off / bar,
        shares=[m.ShareView(cause=one.cause, value=one.value, drawn=abs(one.value) / bar) for one in row.shares],
    )


def _faults(now: Standing) -> Iterator[str]:
    """What the rules would have refused, in its order, and what was overridden."""
    state = opening(now.kind)
    log: list[Event] = []
    for event in effective(now.log):
        try:
            permit(event.act, state, now.kind, Standing(now.book, list(log), now.limits).windows)
        except SpindleError as error:
            yield f"Would have been refused: {error.message}"
        log.append(event)
        state = derive_on(state, log, now.kind)
    yield from (f"Overridden: {', '.join(override.places)}: {override.reason}" for override in now.state.overrides)


def _pays_most(found: Debrief) -> str:
    """Where most of what is off came from, and which reading would have found it."""
    shares: dict[str, float] = {}
    for row in found.rows:
        for share in row.shares:
            shares[share.cause] = shares.get(share.cause, 0.0) + abs(share.value) / _FULL[row.unit]
    if any(abs(one) > 15 for one in found.wound.values()):
        return "Hub-to-arch height before each rubber bolt is torqued: two minutes, and no rubber is wound."
    if not shares:
        return ""
    worst = max(shares, key=lambda cause: shares[cause])
    return {
        READING: "Each angle twice, with the gauge turned round: what it adds to every wheel shows.",
        UNSETTLED: "The same readings after rolling it a car's length and bouncing both ends.",
        UNREAD: "Toe and camber again when the car is down and settled.",
        COUNT: "The new end beside the old one, eye to thread, before it goes on: two minutes with a caliper.",
        FORESEEN: "Motion ratio by two pairs of damper length and height: five minutes, and the height is foreseen.",
    }.get(worst, "Toe and camber once more after turning: what a turn really does shows at once.")
