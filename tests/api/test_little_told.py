"""Jobs of which little is told, from an empty workshop: every page answers, and asks where it cannot.

Cars, readings and parts are invented; what is expected of them is worked by hand.
"""

import itertools

import pytest

from opened import opened
from writer import Writer, chosen, taken, typed

NAMES = itertools.count()
PAGES = ("", "/turns?samples=200", "/springs?samples=200", "/joints", "/record", "/explained", "/plan", "/lessons")
FRONT = ("", "strut", "double_wishbone", "five_link", "solid_links")
REAR = ("twist_beam", "", "trailing_lateral", "semi_trailing", "solid_leaf")
# What no field could change.
NOTHING_TO_TURN = ("both wheels move", "Nothing on this wheel can be adjusted")
ORDERS = (
    [("springs", "front"), ("springs", "rear"), ("tie_rods", "front")],
    [("lower_arm", "front"), ("trailing_arm", "rear")],
    [("thrust_arms", "front"), ("sway_bars", "front")],
    [("coilovers", "front"), ("coilovers", "rear"), ("diff_brace", "rear")],
)


@pytest.fixture
def workshop(tmp_path, quick_gauges):
    """An empty workshop's API."""
    with opened(tmp_path / "empty.sqlite") as client:
        yield client


def begin(client, *fittings, **car):
    """A job on a car that nothing is told of but what is given."""
    number = next(NAMES)
    assert client.post("/api/cars", json={"id": f"car-{number:06}", "car": "Sample", **car}).status_code == 201
    body = {"id": f"job-{number:06}", "car_id": f"car-{number:06}", "title": "Sparse", "car": "-"}
    assert client.post("/api/jobs", json=body).status_code == 201
    job = Writer(client, f"/api/jobs/job-{number:06}")
    job.plan({"fittings": [{"procedure": procedure, "axle": axle} for procedure, axle in fittings]})
    return job


def read(job, key, number, unit="deg", method="angle"):
    """A reading by the name of its field."""
    part = key.rsplit(".", 1)[-1].removeprefix("check_") if method != "typed" else "value"
    return taken(job.post("/events", {"act": typed(key, str(number), unit, method, part)}))


def read_toes(job, name, *toes):
    for side, toe in zip(("left", "right"), toes, strict=True):
        read(job, f"front.{side}.{name}", toe)


def counts(job):
    """The one adjuster of each front wheel, as the floor sees it."""
    return [wheel["counts"][0] for wheel in job.get("/turns?samples=400")["wheels"]]


@pytest.fixture
def rod_ends(workshop):
    """New rod ends on a car nobody told anything of but its toes: 0.05° and 0.10° before, 1.40° and 1.20° after."""
    job = begin(workshop, ("tie_rods", "front"))
    read_toes(job, "toe", 0.05, 0.10)
    read_toes(job, "check_toe", 1.40, 1.20)
    return job


def test_toe_alone_gives_turns_with_the_range_of_a_lever_nobody_measured(rod_ends):
    """A middling lever of 125 mm and 1.5 mm a turn: 1.35° is 1.96 turns; nobody knows it to the flat."""
    view = rod_ends.get("/turns?samples=400")
    assert [wheel["key"] for wheel in view["wheels"]] == ["front.left", "front.right"], "no rear in a front-only job"
    assert view["stands"][0]["total_deg"] == pytest.approx(2.6), "as it was read last, not as it was"
    left, right = counts(rod_ends)
    assert left["left"] < 0 > right["left"]
    assert abs(left["left"] / 6) == pytest.approx(1.96, abs=0.4)
    assert left["plus_minus_turns"] > 2 / 6
    assert "between" not in left["range_said"]
    assert left["first_said"].startswith("First ")
    wheel = view["wheels"][0]
    assert "a middling steering lever" in wheel["assumed"]
    assert (wheel["problem"], wheel["doubt"]) == ("", "")
    assert rod_ends.get("/explained")["toe"] == {}, "an end nobody measured explains it: no cause is looked for"
    assert {"front.left.tie.lever", "front.steer"} <= set(wheel["asked"])
    assert wheel["worth"][0]["turns_then"] < 0.8 * wheel["worth"][0]["turns_now"]


def test_what_the_first_turn_did_is_the_best_measure_of_its_lever(rod_ends):
    """Six flats brought 0.60°: 0.1° a flat, 7.5 flats for the 0.75° left; said within a flat or so."""
    before = counts(rod_ends)[0]["plus_minus_turns"]
    for side in ("left", "right"):
        rod_ends.write("turned", wheel=f"front.{side}", adjuster="Tie rod", steps=-6)
    read_toes(rod_ends, "check_toe", 0.80, 0.60)
    left, right = counts(rod_ends)
    assert left["left"] in (-7, -8)
    assert right["left"] == -5
    assert left["plus_minus_turns"] < before / 3


def test_a_lever_and_thread_that_are_told_leave_a_flat(rod_ends):
    """34′ at a lever of 125 mm and 1.5 mm a turn is 5 flats."""
    for field in (chosen("front.layout", "strut"), chosen("front.steer", "behind")):
        rod_ends.write(**field)
    for side in ("left", "right"):
        read(rod_ends, f"front.{side}.tie.lever", 125, "mm", "typed")
        read(rod_ends, f"front.{side}.tie.pitch", 1.5, "pitch_mm", "typed")
    read_toes(rod_ends, "check_toe", 0.05 + 34 / 60, 0.10)
    left, right = counts(rod_ends)
    assert (left["left"], right["left"]) == (-5, 0)
    assert left["plus_minus_turns"] < 1.5 / 6


def test_turns_the_wrong_way_round_are_not_turned_again_before_the_toe_was_read_again(rod_ends):
    """A turn shorter was written and the toes grew as if it had been longer: nothing more is asked for on that.

    Where nobody said on which side of the axle the rods lie they are ahead of it; what was told is not gone against
    before the toe was read twice.
    """
    for side in ("left", "right"):
        rod_ends.write("turned", wheel=f"front.{side}", adjuster="Tie rod", steps=-6)
    read_toes(rod_ends, "check_toe", 2.02, 1.82)
    wheels = rod_ends.get("/turns?samples=400")["wheels"]
    assert all("ahead of the axle, by what the turns did" in wheel["assumed"] for wheel in wheels)
    assert [one["left"] for one in counts(rod_ends)] == [pytest.approx(19, abs=1), pytest.approx(17, abs=1)]
    for field in (chosen("front.layout", "strut"), chosen("front.steer", "behind")):
        rod_ends.write(**field)
    wheels = rod_ends.get("/turns?samples=400")["wheels"]
    assert all("the wrong way round" in wheel["doubt"] for wheel in wheels)
    assert rod_ends.get("/explained")["wanted"][0].startswith("Front left: read its toe again first.")
    refused = rod_ends.client.post(f"{rod_ends.path}/correction", json={"id": "correction-01", "title": "More"})
    assert refused.status_code == 409
    read_toes(rod_ends, "check_toe", 2.00, 1.83)
    assert not any(wheel["doubt"] for wheel in rod_ends.get("/turns?samples=400")["wheels"])
    assert all(one["left"] > 0 for one in counts(rod_ends)), "read twice, the rod goes the way it was seen to go"


def test_new_springs_nobody_told_anything_of_bring_no_number(workshop):
    job = begin(workshop, ("springs", "front"), ("springs", "rear"))
    view = job.get("/springs?samples=200")
    assert all(wheel["plus_minus_mm"] is None and wheel["predicted_mm"] is None for wheel in view["wheels"])
    heights = [one for one in job.get("/plan")["plan"]["foreseen"] if one["what"].startswith("Heights")]
    assert heights
    assert all(not one["known"] and one["fields"] for one in heights)
    job.write(**chosen("front.new_spring.fit", "coil"))
    read(job, "front.new_spring.rate", 30, "n_per_mm", "typed")
    _, rear = (one for one in job.get("/plan")["plan"]["foreseen"] if one["what"].startswith("Heights"))
    assert not rear["known"], "what is told of the front says nothing of the rear"


def test_a_spacer_lifts_by_itself_without_a_weight(workshop):
    """25 mm at a ratio of 0.55 spring to wheel lifts 25/0.55 = 45.5 mm."""
    job = begin(workshop, ("strut_spacer", "rear"), rear_layout="trailing_lateral")
    for side in ("left", "right"):
        read(job, f"rear.{side}.height", 495, "mm", "hub_to_arch")
    read(job, "rear.new_top.spacer", 25, "mm", "typed")
    read(job, "rear.motion_ratio", 0.55, "spring_per_wheel", "typed")
    view = job.get("/springs?samples=400")
    changes = {one["key"]: one for one in view["wheels"]}
    assert changes["rear.left"]["change_mm"] == pytest.approx(25 / 0.55, abs=1.5)
    assert 0 < changes["rear.left"]["plus_minus_mm"] < 8


def test_rubber_asks_for_its_height_while_it_can_still_be_read_and_then_has_a_window(workshop):
    job = begin(workshop, ("trailing_arm", "rear"))
    assert {"rear.left.height", "rear.right.height"} <= set(job.view()["missing"]["baseline"])
    for side in ("left", "right"):
        read(job, f"rear.{side}.height", 360, "mm", "hub_to_arch")
    bonded = [one for one in job.get("/joints")["joints"] if one["waits_for_load"]]
    assert bonded
    for joint in bonded:
        low, high = joint["window_mm"]
        assert low < 360 < high
        assert joint["window_usual"], "an arm nobody measured is a usual one"


@pytest.mark.parametrize("order", ORDERS, ids=lambda order: order[0][0])
def test_every_page_answers_of_every_layout_and_none_asks_without_a_field(workshop, order):
    for front, rear in zip(FRONT, REAR, strict=True):
        layouts = {name: kind for name, kind in (("front_layout", front), ("rear_layout", rear)) if kind}
        job = begin(workshop, *order, **layouts)
        for wheel in ("front.left", "front.right", "rear.left", "rear.right"):
            read(job, f"{wheel}.toe", 6, "min")
        for page in PAGES:
            answer = workshop.get(job.path + page)
            # A job that moves no height has no page of springs.
            assert answer.status_code == 200 or (page.startswith("/springs") and answer.status_code == 409), page
        for foreseen in job.get("/plan")["plan"]["foreseen"]:
            assert foreseen["known"] or foreseen["fields"], (front, rear, foreseen)
        for wheel in job.get("/turns?samples=200")["wheels"]:
            assert (
                not wheel["problem"] or wheel["asked"] or any(words in wheel["problem"] for words in NOTHING_TO_TURN)
            ), wheel
        springs = workshop.get(f"{job.path}/springs?samples=200").json()
        assert not springs.get("lacks") or springs["asked"]
        for part in (*springs.get("bench", ()), *springs.get("bars", ()), *springs.get("travel", ())):
            assert len(part["asked"]) == len(part["lacks"])
        assert all(one["plus_minus_mm"] != 0 for one in springs.get("wheels", ()))


def test_what_was_typed_in_the_wrong_unit_or_beside_the_first_reading_is_told(workshop):
    job = begin(workshop, ("tie_rods", "front"))
    read(job, "front.left.toe", 10)
    assert "Were 10 minutes meant?" in job.view()["entries"]["front.left.toe"]["doubt"]
    act = typed("front.right.toe", "0.10", "deg", "angle", "toe")
    act |= {"again": [{"toe": {"text": "0.30", "unit": "deg"}}], "plus_minus": {"text": "0.03", "unit": "deg"}}
    taken(job.post("/events", {"act": act}))
    assert job.view()["entries"]["front.right.toe"]["doubt"], "two readings 0.2° apart are told, not averaged away"
