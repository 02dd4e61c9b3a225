"""The recipe texts of a folder, with the annotation that answers for them where there is one."""

import json
import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

# What a food that nobody lists is like, by the hazard the annotation gives it.
LIKE = {
    "raw_poultry": "chicken",
    "raw_meat": "beef",
    "raw_fish": "salmon",
    "raw_shellfish": "prawns",
    "raw_egg": "egg",
    "raw_flour": "plain flour",
    "unwashed_produce": "carrot",
}


@dataclass(frozen=True, slots=True)
class Text:
    """A recipe as somebody pasted it."""

    name: str
    text: str
    locale: str = "en-GB"
    ingredients: list[dict[str, Any]] = field(default_factory=list)

    @property
    def list_of_ingredients(self) -> str:
        """The annotated lines, one on a line; nothing without an annotation."""
        return "\n".join(row["line"] for row in self.ingredients)

    def is_ingredient(self, words: str) -> bool:
        """True if a line is one of the annotated ones, or nobody annotated any."""
        low = words.lower()
        return not self.ingredients or any(
            row["line"].lower() in low or row["food"] in low or low[:40] in row["line"].lower()
            for row in self.ingredients
        )

    def kinds_for(self, words: str, food: str, kinds: list[str]) -> list[str]:
        """What to answer for a food nobody lists, best first: what the annotation says it is or is
        like, else the first offer that shares a word with it, else what is surely no raw food."""
        low = words.lower()
        names = [food]
        for row in self.ingredients:
            if row["line"].lower() in low or low in row["line"].lower() or row["food"] in low:
                names += [row["food"], *row["accept"], *(LIKE[name] for name in row["hazards"] if name in LIKE)]
        known = {kind.lower(): kind for kind in kinds}
        said = [known[name.lower()] for name in names if name and name.lower() in known]
        tokens = set(re.findall(r"[a-z]{3,}", " ".join(names).lower()))
        shared = [kind for kind in kinds if tokens & set(re.findall(r"[a-z]{3,}", kind.lower()))]
        return list(dict.fromkeys([*said, *shared[:3], *filter(None, names), "salt"]))[:6]


def texts_in(folder: Path) -> list[Text]:
    """Every recipe text of a folder, in the order of their names: plain text, or the annotated JSON."""
    found = []
    for path in sorted(folder.iterdir()):
        if path.suffix == ".json":
            row = json.loads(path.read_text(encoding="utf-8"))
            found.append(Text(path.stem, row["text"], row.get("locale", "en-GB"), row.get("ingredients", [])))
        elif path.suffix in (".txt", ".md") and path.name != "README.md":
            found.append(Text(path.stem, path.read_text(encoding="utf-8")))
    return found
