"""The pieces of the flow map with their places [px], ready for the template."""

from dataclasses import dataclass

from bulwark.flow.drawings.looks import SoilLook


@dataclass(frozen=True, slots=True)
class Line:
    """A line of a step's title."""

    text: str
    y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Head:
    """A step at the top of its column."""

    id: str
    number: int
    x: float
    left: float
    width: float
    lines: tuple[Line, ...]
    title: str
    bad: bool
    added: bool
    chosen: bool
    later: bool

    @property
    def label(self) -> str:
        """Its name for a screen reader: what is seen, and the whole title where that is shorter."""
        seen = " ".join((str(self.number), *(line.text for line in self.lines)))
        return seen if seen == f"{self.number} {self.title}" else f"{seen}: {self.title}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """A lane: its name and its line."""

    id: str
    name: str
    title: str
    squeeze: float | None
    y: float
    x1: float
    x2: float
    plain: bool
    heading: str
    heading_y: float
    size: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Ribbon:
    """A band of one soil."""

    soil: str
    ink: str
    lane: str
    x: float
    y: float
    width: float
    height: float
    title: str
    start: int
    dim: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Ring:
    """One member of a contact."""

    key: str
    x: float
    y: float
    step: int
    lane: str
    soiled: bool
    say: str
    dim: bool
    later: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Stem:
    """The line that joins the members of a contact."""

    x: float
    y1: float
    y2: float
    soiled: bool
    step: int
    dim: bool
    later: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Plaque:
    """A wash, a rinse or a heat on a lane."""

    what: str
    x: float
    y: float
    width: float
    height: float
    text: str
    step: int
    say: str
    dim: bool
    later: bool

    @property
    def mid(self) -> float:
        """The middle of the plaque."""
        return round(self.x + self.width / 2, 1)

    @property
    def line(self) -> float:
        """The base line of its text."""
        return round(self.y + self.height / 2 + 5.5, 1)

    @property
    def text_w(self) -> float:
        """The room its text fills, narrower than the plaque."""
        return round(min(self.width - 8, 9.5 * len(self.text)), 1)

    def _shape(self, path: str) -> str:
        return path.format(x=self.mid, y=round(self.y + self.height / 2, 1))

    @property
    def drop(self) -> str:
        """A drop of water in its middle."""
        return self._shape("M{x} {y}m0 -10c4 5.5 6.6 8.6 6.6 11.8a6.6 6.6 0 0 1 -13.2 0c0 -3.2 2.6 -6.3 6.6 -11.8Z")

    @property
    def flame(self) -> str:
        """A flame in its middle."""
        return self._shape(
            "M{x} {y}m1 -10c1 5 6 6.5 6 12a7 7 0 0 1 -14 0c0 -3.5 2 -5 3 -7.5c1 1.5 1.5 2.5 3 3c1 -2.5 .5 -5 2 -7.5Z"
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Leg:
    """One straight piece of the violating path."""

    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """A numbered place on the violating path."""

    number: int
    x: float
    y: float
    step: int

    @property
    def line(self) -> float:
        """The base line of its number."""
        return round(self.y + 6, 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Brick:
    """A brick of the wall between kit and ready to eat."""

    x: float
    y: float
    width: float
    height: float
    glaze: int
    broken: bool

    @property
    def left_piece(self) -> str:
        """The left piece of a broken brick, pushed aside."""
        x, y, w, h = self.x - 1, self.y + 1, self.width * 0.34, self.height
        return f"M{x:.1f} {y:.1f}h{w + 4:.1f}l-5 {h * 0.4:.1f} 6 {h * 0.2:.1f} -5 {h * 0.4:.1f}h-{w:.1f}Z"

    @property
    def right_piece(self) -> str:
        """The right piece, pushed the other way."""
        x, y, w, h = self.x + self.width + 1, self.y - 1, self.width * 0.34, self.height
        return f"M{x:.1f} {y:.1f}h-{w:.1f}l5 {h * 0.4:.1f} -6 {h * 0.2:.1f} 5 {h * 0.4:.1f}h{w - 4:.1f}Z"


@dataclass(frozen=True, slots=True, kw_only=True)
class FlowMap:
    """The whole drawing, ready for its template."""

    label_w: float
    width: float
    height: float
    head_h: float
    heads: tuple[Head, ...]
    rows: tuple[Row, ...]
    ribbons: tuple[Ribbon, ...]
    rings: tuple[Ring, ...]
    stems: tuple[Stem, ...]
    plaques: tuple[Plaque, ...]
    legs: tuple[Leg, ...]
    stops: tuple[Stop, ...]
    arrow: tuple[float, float] | None
    bricks: tuple[Brick, ...]
    wall: tuple[float, float, float, float] | None
    raw_zone: tuple[float, float] | None
    ready_zone: tuple[float, float] | None
    bad_column: tuple[float, float] | None
    looks: tuple[SoilLook, ...]
    scrolls: bool
    title: str
    foot: float

    @property
    def raw_height(self) -> float:
        """How high the raw zone is."""
        return round(self.raw_zone[1] - self.raw_zone[0], 1) if self.raw_zone else 0.0

    @property
    def ready_height(self) -> float:
        """How high the ready-to-eat zone is."""
        return round(self.ready_zone[1] - self.ready_zone[0], 1) if self.ready_zone else 0.0

    @property
    def drop(self) -> float:
        """How far the bad step's column reaches down."""
        return round(self.height - 8, 1)

    @property
    def arrow_path(self) -> str:
        """The head of the violating path: it leaves for the plate."""
        if self.arrow is None:
            return ""
        x, y = self.arrow
        return f"M{x - 6:.1f} {y - 13:.1f}L{x + 13:.1f} {y:.1f}L{x - 6:.1f} {y + 13:.1f}Z"

    @property
    def whole_w(self) -> float:
        """The width of the drawing with its labels."""
        return round(self.label_w + self.width, 1)

    @property
    def key_y(self) -> float:
        """Where the key begins under the drawing."""
        return round(self.height + 50, 1)

    @property
    def whole_h(self) -> float:
        """The height of the drawing with its title and its key."""
        return round(self.key_y + 28 * (1 + max((round(look.y / 28) for look in self.looks), default=0)), 1)
