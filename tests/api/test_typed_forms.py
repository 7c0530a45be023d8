"""Forms: what is typed is understood by the server, in any unit; what is no number is refused by its field."""

import pytest


def understood(client, **form):
    return client.post("/api/typed", json=form)


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [("90°", "deg", 90), ("100 mm", "mm", 100), ("1,5", "mm", 1.5), ("1 1/2", "mm", 1.5), ("2 in", "mm", 50.8),
     ("0°30'", "deg", 0.5), ("-3", "mm", -3), ("12", "piece", 12)],
)  # fmt: skip
def test_a_number_is_taken_with_its_unit(client, text, unit, value):
    answer = understood(client, numbers={"angle": {"text": text, "unit": unit}}).json()
    assert answer["numbers"]["angle"] == pytest.approx(value)


@pytest.mark.parametrize(
    ("text", "thread"),
    [("M12 x 1,25", (12, 1.25)), ("12x1.25", (12, 1.25)), ("M10", (10, 1.5)), ("1/2-20", (12.7, 1.27)), ("", (0, 0)),
     ("7/16 x 14", (11.1125, 25.4 / 14)), ("M8×1.25", (8, 1.25))],
)  # fmt: skip
def test_a_thread_is_taken_metric_or_by_the_inch(client, text, thread):
    found = understood(client, threads={"thread": text}).json()["threads"]["thread"]
    assert (found["diameter_mm"], found["pitch_mm"]) == pytest.approx(thread)


def test_rows_give_places_with_their_own_thread_torque_and_note(client):
    rows = understood(client, rows="10; -20,5; M8; 25; ear down\n\n0\t3").json()["rows"]
    assert [(row["x_mm"], row["y_mm"]) for row in rows] == [(10, -20.5), (0, 3)]
    assert (rows[0]["thread"]["pitch_mm"], rows[0]["torque"], rows[0]["note"]) == (1.25, "25", "ear down")
    assert rows[1]["thread"] is None


@pytest.mark.parametrize(
    ("form", "field"),
    [({"numbers": {"length": {"text": "long", "unit": "mm"}}}, "length"),
     ({"numbers": {"length": {"text": "5 kg", "unit": "mm"}}}, "length"),
     ({"numbers": {"x": {"text": "1", "unit": "furlong"}}}, "x"),
     ({"threads": {"thread": "M13"}}, "thread"), ({"threads": {"thread": "thick"}}, "thread"),
     ({"rows": "10"}, "rows"), ({"rows": "10; far"}, "rows.1")],
)  # fmt: skip
def test_what_is_no_number_is_refused_by_its_field(client, form, field):
    answer = understood(client, **form)
    assert answer.status_code == 422
    assert answer.json()["field"] == field
    assert answer.json()["message"]
