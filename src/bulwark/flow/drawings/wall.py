"""The wall between kit and ready to eat, broken where the violating path crosses it."""

from collections.abc import Sequence

from bulwark.flow.drawings.shapes import Brick

BRICK_W = 62.0


def wall_bricks(wall: tuple[float, float, float, float], crossed: Sequence[float]) -> list[Brick]:
    """Two courses of bricks in a wall (x, y, width, height), broken at the places crossed [px]."""
    return [brick for course in (0, 1) for brick in _course(wall, course, crossed)]


def _course(wall: tuple[float, float, float, float], course: int, crossed: Sequence[float]) -> list[Brick]:
    left, top, right, wall_h = wall
    height = round((wall_h - 6) / 2, 1)
    bricks: list[Brick] = []
    x = left + 3
    while x < right - 3:
        short = course and not bricks  # the upper course is half a brick out of step with the lower one
        width = min(BRICK_W * 0.4 if short else BRICK_W, right - 3 - x)
        bricks.append(
            Brick(
                x=round(x, 1),
                y=round(top + 2 + course * (height + 2), 1),
                width=round(width, 1),
                height=height,
                glaze=(len(bricks) * 3 + course) % 4,
                broken=any(x - 6 < at < x + width + 6 for at in crossed),
            )
        )
        x += width + 3
    return bricks
