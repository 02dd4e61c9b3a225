"""How each soil is drawn: a colour and a pattern of its own."""

import colorsys
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from bulwark.flow import wording

TOKENS = Path(__file__).resolve().parents[2] / "static/bulwark/tokens.css"


@cache
def palette() -> Mapping[str, str]:
    """The tokens' colours as #rrggbb by name: a downloaded or printed drawing has no style sheet."""
    text = TOKENS.read_text(encoding="utf-8")
    found = re.findall(r"--bw-([a-z0-9-]+):\s*hsl\((\d+) (\d+)% ([\d.]+)%\)", text)
    colours = {}
    for name, hue, saturation, lightness in found:
        red, green, blue = colorsys.hls_to_rgb(int(hue) / 360, float(lightness) / 100, int(saturation) / 100)
        colours[name.replace("-", "_")] = "#" + "".join(f"{round(255 * part):02x}" for part in (red, green, blue))
    return colours


@dataclass(frozen=True, slots=True)
class SoilLook:
    """How a soil is drawn: two colours, and a pattern that survives greyscale."""

    id: str
    name: str
    fill: str
    ink: str
    path: str
    width: float
    size: int = 12
    x: float = 0.0
    y: float = 0.0


# Each its own pattern as well as its own colour: chevrons, bars, waves, scales, rings, crosses.
_LOOKS: Mapping[str, tuple[str, str, str, float, int]] = {
    "raw_poultry": ("#df9aa9", "#73213b", "M1.5 -1 7 6 1.5 13", 2.8, 12),
    "raw_meat": ("#d98a86", "#6d1f1c", "M3 -1V13M8 -1V13", 2.6, 12),
    "raw_fish": ("#9fb4cc", "#1f3f63", "M-1 4Q3 -1 6 4T13 4M-1 10Q3 5 6 10T13 10", 2.2, 12),
    "raw_shellfish": ("#e3a98a", "#73361a", "M0 9A6 6 0 0 1 12 9M3 9A3 3 0 0 1 9 9", 2.0, 12),
    "raw_egg": ("#ecd27c", "#6b4d06", "M6 2.4A3.6 3.6 0 1 1 5.9 2.4Z", 2.2, 12),
    "raw_flour": ("#e4dac4", "#6a5d43", "M6 2V10M2 6H10", 2.2, 12),
    "unwashed_produce": ("#b7cda0", "#3c5526", "M1 11Q1 2 10 1Q10 10 1 11Z", 1.8, 12),
    "person": ("#d8c3b4", "#5e3d28", "M2 2 10 10M10 2 2 10", 2.2, 12),
    "waste": ("#b9b2a2", "#3d3829", "M0 3H7M5 9H12", 3.0, 12),
    "chemical": ("#c9b8da", "#46286b", "M0 0H6V6H0ZM6 6H12V12H6Z", 1.6, 12),
    "toxin": ("#b3a1b7", "#3f1f47", "M0 12 6 2 12 12", 2.4, 12),
}
_ALLERGEN = ("#c3c6e0", "#2c2f6b", "M0 12 12 0M-3 3 3 -3M9 15 15 9", 3.2, 12)


@cache
def soil_look(soil: str) -> SoilLook:
    """How one soil is drawn; an allergen has its own slanted lines."""
    fill, ink, path, width, size = _LOOKS.get(soil, _ALLERGEN)
    return SoilLook(soil, wording.soil(soil), fill, ink, path, width, size)
