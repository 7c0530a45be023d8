"""What is carried over from line to line rests on nothing that the line changed."""

from dataclasses import fields, replace

import pytest

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.fields.catalogue import reading_field, sheet_for
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.joblog.log import Entered, Event
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict.step_words import rests_on_own_reads
from fair_spindle.jobs import checking, outlook
from fair_spindle.jobs.book import all_jobs, standing, walk_of
from fair_spindle.jobs.snapshot import RESTS_ON, Standing
from fair_spindle.jobs.views import show_findings, show_job
from writer import Writer, typed

SHOWN = 7  # Every so many lines it is shown, as it would be to a page that had been away.
PARTS = {one.name for one in fields(JobState)}
OF_OUTLOOK = (
    "readings",
    "loads",
    "corner_points",
    "sprung",
    "sitting",
    "height_model",
    "foreseen",
    "aligning",
    "plan",
    "bars",
    "perches",
)


class Watched(JobState):
    """A state that remembers which of its parts were looked at."""

    def __getattribute__(self, name):
        if name in PARTS:
            object.__getattribute__(self, "__dict__").setdefault("looked", set()).add(name)
        return object.__getattribute__(self, name)


@pytest.mark.parametrize("name", [name for name in RESTS_ON if not name.endswith("_views")])
def test_a_result_looks_at_nothing_but_what_it_is_said_to_rest_on(database, name, monkeypatch):
    looked = set()
    for line in all_jobs(database, 50):
        now = standing(database, line.id)
        monkeypatch.setattr(outlook, "_kept", outlook.OrderedDict())
        alone = Standing(now.book, now.log, now.limits)
        state = Watched(**{part: getattr(now.state, part) for part in PARTS})
        alone.__dict__["state"] = state
        found = getattr(alone, name)
        for part in OF_OUTLOOK if name == "outlook" else ():
            getattr(found, part)
        looked |= state.__dict__["looked"]
        if "choices" in RESTS_ON[name]:
            chosen = {key: one for key, one in now.state.entries.items() if one.act.choice}
            alone = Standing(now.book, now.log, now.limits)
            alone.__dict__["state"] = replace(now.state, entries=chosen)
            assert getattr(alone, name) == found
    assert looked - ({"entries"} if "choices" in RESTS_ON[name] else set()) <= RESTS_ON[name]
    assert looked, "it was looked at"


def test_a_job_looks_the_same_worked_out_line_by_line_and_from_its_log(database):
    for line in all_jobs(database, 50):
        now = standing(database, line.id)
        grown = Standing(now.book, now.log[:1], now.limits)
        for place, event in enumerate(now.log[1:]):
            if place % SHOWN == 0:
                show_job(grown, walk_of(database, grown))
                show_findings(grown)
            grown = grown.then(event)
        alone = Standing(now.book, now.log, now.limits)
        assert show_job(grown, walk_of(database, grown)) == show_job(alone, walk_of(database, alone)), line.title
        assert show_findings(grown) == show_findings(alone), line.title


def filled(asked, *texts):
    """A field filled in by its first method."""
    method = asked.methods[0]
    told = {part.name: Typed(text, part.unit) for part, text in zip(method.parts, texts, strict=True)}
    return Entered(asked.key, method.name, told)


def test_what_was_shown_before_a_line_is_shown_anew_where_it_says_something_else(database):
    now = standing(database, next(one.id for one in all_jobs(database, 50) if one.title.startswith("Front arms")))
    step = next(step for step in now.template.steps if step.reads and rests_on_own_reads(step))
    point = "front.left.point.tie_outer"

    asked = {
        layout: sheet_for("work", shape_of({"front.layout": layout}), ()).fields for layout in ("strut", "five_link")
    }
    assert asked["strut"][point].label != asked["five_link"][point].label
    lengths = [asked["five_link"][f"front.{side}.lower_front.length"] for side in SIDES]
    toes = [asked["strut"][f"front.{side}.toe"] for side in SIDES]
    acts = [
        filled(reading_field(step.reads[0]), "230"),
        Entered("front.layout", choice="strut"),
        filled(asked["strut"][point], "1", "700", "300"),
        Entered("front.layout", choice="five_link"),
        *(filled(one, text) for one, text in zip(lengths, ("300", "340"), strict=True)),
        *(filled(one, text) for one, text in zip((*toes, toes[0]), ("0", "0.3", "-0.1"), strict=True)),
    ]
    show_job(now, walk_of(database, now))
    for number, act in enumerate(acts):
        now = now.then(Event(f"more-{number}", now.version + 1, "2031-01-01T00:00:00.000Z", act))
        told = show_job(now, walk_of(database, now))
        alone = Standing(now.book, list(now.log), now.limits)
        assert told == show_job(alone, walk_of(database, alone)), act
    doubted = {one.key for one in told.entries.values() if any(f"against the {side}" in one.doubt for side in SIDES)}
    assert doubted == {lengths[1].key, toes[0].key}


def test_a_choice_lets_go_of_what_rests_on_choices_and_a_number_does_not(database):
    title = "Front arms, bar and tie-rod ends"
    now = standing(database, next(one.id for one in all_jobs(database, 50) if one.title == title))
    show_job(now, walk_of(database, now))
    show_findings(now)
    toe = Entered("front.left.toe", "angle", {"toe": Typed("3", "min")})
    told = (Entered("front.left.lower.bush_front", choice="spherical"), False), (toe, True)
    for act, kept in told:
        after = now.then(Event("one-more", now.version + 1, "2031-01-01T00:00:00.000Z", act))
        for name in ("found_at_bolts", "finished_together", "choice_views"):
            assert (name in after.__dict__) == kept, name


def test_a_wheel_angle_moves_where_a_car_sits_only_where_its_points_turn_with_it(database, monkeypatch):
    toe, found = Entered("front.left.toe", "angle", {"toe": Typed("41", "min")}), set()
    for line in all_jobs(database, 50):
        now = standing(database, line.id)
        if now.changes_springs and not now.state.signature:
            after = now.then(Event("one-more", now.version + 1, "2031-01-01T00:00:00.000Z", toe))
            found.add((bool(after.outlook.corner_points), after.sitting is now.sitting))
            sits = after.sitting
            monkeypatch.setattr(outlook, "_kept", outlook.OrderedDict())
            assert Standing(now.book, after.log, now.limits).sitting == sits, line.title
    assert found == {(True, False), (False, True)}


def test_a_note_has_nothing_worked_out_again_and_a_height_has(client, monkeypatch):
    monkeypatch.setattr(outlook, "_kept", outlook.OrderedDict())
    found = next(one["id"] for one in client.get("/api/jobs").json() if one["title"].startswith("Coilovers"))
    job, asked = Writer(client, f"/api/jobs/{found}"), []
    for room, name in ((outlook, "bars_of"), (outlook, "correct_perches"), (checking, "beside_wheel")):
        own = getattr(room, name)
        monkeypatch.setattr(room, name, lambda *a, own=own, name=name, **k: asked.append(name) or own(*a, **k))

    def after(**act):
        job.write(**act)
        begun = len(asked)
        for _ in range(2):
            job.get("/springs?samples=600")
            job.get("/explained")
        return asked[begun:]

    assert {"bars_of", "correct_perches"} <= set(after(kind="noted", text="first looked at"))
    assert after(kind="noted", text="nothing read") == []
    height = typed("front.left.check_height", "340", method="hub_to_arch", part="height")
    assert sorted(set(after(**height))) == ["bars_of", "beside_wheel", "correct_perches"]
