"""Cans and portions."""

from foodsafety.recipes import batch_portions, part_can


def test_cans_and_portions() -> None:
    can, made = part_can(needed_g=600, can_g=240), batch_portions(batch_g=4200, portion_g=350, people=30)

    assert (can.cans, can.left_g, can.last_share) == (3, 120, 0.5)
    assert (made.portions, made.over_g, made.batches) == (12, 0, 3)
