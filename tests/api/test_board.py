"""The workshop's board: every car in work as it stands, what is due, the list over all jobs, the day."""

from datetime import datetime, timedelta

from opened import opened

NINE = "2031-03-03T09:00:00+00:00"


def test_the_board_tells_where_each_car_stands_what_is_next_and_what_is_loose(client, jobs):
    board = client.get("/api/board").json()
    lines = {line["id"]: line for line in board["lines"]}
    assert jobs["finished"] not in lines, "what is signed is not in work"
    hanging = lines[jobs["hanging"]]
    job = client.get(f"/api/jobs/{jobs['hanging']}").json()
    assert hanging["position_said"] == job["position_said"]
    assert hanging["next_step"] == next(step["title"] for step in job["steps"] if step["state"] == "open")
    assert any("Wheel nuts" in one for one in hanging["loose"])
    assert not hanging["may_be_driven"]
    assert [(one["key"], one["state"]) for one in hanging["steps"]] == [
        (step["key"], step["state"]) for step in job["steps"]
    ]
    assert [one["job_id"] for one in board["rechecks"]] == [jobs["finished"]]
    assert any(one["what"] == "Level, bay 2" and one["overdue"] for one in board["gauges"])
    assert {one["what"] for one in board["booked"]} >= {"Alignment on a rack"}


def test_one_list_over_every_job_adds_what_is_bought_and_not_what_is_lent(client):
    needs = {(one["sort"], one["name"]): one for one in client.get("/api/board/needs").json()}
    lines = client.get("/api/board").json()["lines"]
    each = [client.get(f"/api/jobs/{line['id']}/plan").json()["plan"] for line in lines]
    lists = [one for plan in each if plan for one in plan["lists"]]
    for (sort, name), need in needs.items():
        counts = [one["count"] for one in lists if (one["sort"], one["name"]) == (sort, name)]
        assert need["count"] == (max(counts) if sort == "tool" else sum(counts))
    table = client.get("/api/board/needs.csv").text.splitlines()
    assert table[0] == "sort,name,count,cars"
    assert len(table) == len(needs) + 1


def test_a_job_s_clock_moves_with_the_hour_and_with_what_is_done(client, jobs):
    def clock(job, **query):
        told = client.get(f"/api/jobs/{job}/clock", params={"begin": NINE, **query}).json()
        return {
            one["what"]: (datetime.fromisoformat(one["low"]), datetime.fromisoformat(one["high"])) for one in told
        }

    alone, both = clock(jobs["measuring"]), clock(jobs["measuring"], people=2)
    assert list(alone) == ["raised", "loaded", "on its wheels again", "done"]
    assert all(low <= high for low, high in alone.values())
    assert both["done"][1] < alone["done"][1]
    later = {name: both_ for name, both_ in clock(jobs["measuring"], begin="2031-03-03T10:00:00+00:00").items()}
    assert later["done"][0] - alone["done"][0] == timedelta(hours=1)
    view = client.get(f"/api/jobs/{jobs['measuring']}").json()
    act = {"kind": "stepped", "step": "settle", "outcome": "skipped", "reason": "stood since yesterday"}
    client.post(
        f"/api/jobs/{jobs['measuring']}/events", json={"id": "skip-it-1", "seen": view["version"], "act": act}
    )
    assert clock(jobs["measuring"])["done"] < alone["done"], "what is done is not waited for"


def test_an_empty_workshop_can_be_filled_with_the_sample_one_and_only_an_empty_one(client, tmp_path):
    refused = client.post("/api/demo")
    assert refused.status_code == 409
    assert "empty" in refused.json()["message"]
    with opened(tmp_path / "new.sqlite") as empty:
        assert empty.get("/api/board").json()["lines"] == []
        assert empty.get("/api/board/day").json()["said"] == "No car in work has a plan yet."
        assert len(empty.post("/api/demo").json()["lines"]) == len(client.get("/api/board").json()["lines"])
