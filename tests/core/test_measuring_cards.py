"""How to measure it: every way that has a card has a whole one, and what is read most has one."""

import re
from pathlib import Path

import pytest

from fair_spindle.core.fields.cards import CARDS, card_of
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.joblog.required_fields import shape_now
from fair_spindle.core.joblog.state import JobState

DRAWING = Path(__file__).parents[2] / "web" / "src" / "components" / "MeasureDrawing.vue"


@pytest.mark.parametrize("card", CARDS.values(), ids=list(CARDS))
def test_a_card_is_short_and_drawn(card):
    assert len(card.lines) == 4
    assert all(10 < len(line) <= 80 for line in card.lines)
    assert card.usual.startswith("±")
    assert re.search(r"\d+ min", card.minutes)
    assert f"name === '{card.drawing}'" in DRAWING.read_text() or card.drawing == "turns"


def test_what_is_read_on_every_car_says_how():
    sheet = sheet_for("work", shape_now(JobState()), ())
    told = {
        (field.key.rpartition(".")[2], method.name): card_of(field.key, method.name)
        for field in sheet.fields.values()
        for method in field.methods
    }
    wanted = {
        ("height", "hub_to_arch"),
        ("toe", "strings"),
        ("camber", "angle"),
        ("camber", "plumb"),
        ("total_toe", "plates"),
        ("loads", "four_scales"),
        ("motion_ratio", "tape"),
        ("free", "typed"),
        ("turns_off", "typed"),
        ("check_height", "hub_to_arch"),
        ("check_camber", "angle"),
    }
    assert {one for one in wanted if not told[one]} == set()
    assert set(filter(None, told.values())) <= set(CARDS)
    assert card_of("front.left.point.lower_ball", "point") == "point"
    assert card_of("car.fuel", "typed") == ""
