"""``bin/walk``: takes every recipe text of a folder through the running program."""

import argparse
import os
import sys
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import sync_playwright

from tests.browser import launched
from tests.walk.faults import Faults
from tests.walk.tablet import Tablet, TouchedTablet
from tests.walk.texts import Text, texts_in
from tests.walk.walk import Joins, MenuWalk, Walk, Walked, over_http


@contextmanager
def in_chromium(address: str, code: str) -> Iterator[Tablet]:
    """A tablet that joins by its code in a browser of its own."""
    with sync_playwright() as playwright:
        browser = launched(playwright)
        page = browser.new_page(viewport={"width": 1180, "height": 820})
        page.set_default_timeout(15_000)
        yield TouchedTablet(page, address, f"/j/{code}/")
        browser.close()


def told(row: Walked) -> str:
    """One walk, in lines for a person."""
    cooked = row.cooked
    lines = [
        f"{row.name} {row.title[:50]}: {'right' if row.right else 'NOT RIGHT'}; {row.taps_to_start} taps to start,"
        f" {row.questions} questions, {len(cooked.panels)} screens, {cooked.taps} taps at the bench"
        + (f", waited {cooked.waited_s:.0f} s" if cooked.waited_s else "")
        + (f", {len(cooked.slips)} slips" if cooked.slips else "")
    ]
    groups = {
        "stopped": [row.stopped],
        "stuck": [cooked.stuck],
        "refused": cooked.refused,
        "lost": [row.lost],
        "no way out": ["it does not fit, and nothing was offered that ends it sooner"] if row.no_way else [],
        "unproven": row.unproven,
        "not called": cooked.uncalled,
        "not laid": row.never_laid,
        "card refused": row.paper,
        "pad": row.pad,
        "not laid on paper": row.paper_open,
        "shelf": row.shelf,
        "practice": row.practice,
        "words": list(dict.fromkeys(row.words)),
    }
    for what, found in groups.items():
        lines += [f"    {what}: {line[:220]}" for line in found[:8] if line]
        lines += [f"    {what}: and {len(found) - 8} more"] if len(found) > 8 else []
    return "\n".join(lines)


def total(rows: list[Walked]) -> str:
    """What came of all of them."""
    ended = sum(not row.stopped and not row.cooked.stuck for row in rows)
    count = {
        "right": sum(row.right for row in rows),
        "ended": ended,
        "ways out taken": sum(row.ways for row in rows),
        "without a way out": sum(row.no_way for row in rows),
        "questions": sum(row.questions for row in rows),
        "readings or entries refused": sum(len(row.cooked.refused) for row in rows),
        "bricks not laid": sum(len(row.never_laid) for row in rows),
        "seen on pads": sum(row.seen for row in rows),
        "cards refused": sum(bool(row.paper) for row in rows),
        "bricks not laid on paper": sum(len(row.paper_open) for row in rows),
        "unproven and not told": sum(len(row.unproven) for row in rows),
        "kept parts to their end": sum(row.kept for row in rows),
        "puzzles played": sum(row.puzzles for row in rows),
        "wrong in practice": sum(len(row.practice) for row in rows),
        "labels that differ": sum(len(row.shelf) for row in rows),
        "records that differ": sum(bool(row.lost) for row in rows),
        "machine-made words": sum(len(set(row.words)) for row in rows),
        "slips": sum(len(row.cooked.slips) for row in rows),
        "slips not called": sum(len(row.cooked.uncalled) for row in rows),
    }
    return f"{len(rows)} texts: " + ", ".join(f"{n} {what}" for what, n in count.items())


def pairs(texts: list[Text]) -> list[tuple[Text, Text]]:
    """Two texts a menu, of one country each: what is measured in another one's cups stands in no menu with it."""
    rows = {text.locale: [one for one in texts if one.locale == text.locale] for text in texts}
    return [pair for own in rows.values() for pair in zip(own[::2], own[1::2], strict=False)]


def main() -> int:
    """Walks, prints, and answers 1 unless everything is right."""
    parser = argparse.ArgumentParser(prog="bin/walk", description=__doc__)
    parser.add_argument("address")
    parser.add_argument("username")
    parser.add_argument("password")
    parser.add_argument("folder", type=Path)
    parser.add_argument("--only", default="", help="names of texts, parted by commas")
    parser.add_argument("--browser", action="store_true", help="cook in Chromium instead of over HTTP")
    parser.add_argument("--slips", action="store_true", help="slip at random and expect each slip to be called")
    parser.add_argument("--menus", action="store_true", help="two texts a menu, four benches, an assistant")
    parser.add_argument("--faults", action="store_true", help="tablets and the server fail while benches cook")
    parser.add_argument("--workers", type=int, default=3)
    asked = parser.parse_args()
    texts = [text for text in texts_in(asked.folder) if not asked.only or text.name in asked.only.split(",")]
    if not texts:
        print(f"no recipe text in {asked.folder}")
        return 2

    sign_in, faults = (asked.username, asked.password), Faults(int(os.environ.get("WALK_SERVER") or 0))
    joins: Joins = in_chromium if asked.browser else faults.joins if asked.faults else over_http
    if asked.menus:
        walks: list[Walk] = [
            MenuWalk(asked.address, sign_in, one, other, joins=joins, slips=asked.slips) for one, other in pairs(texts)
        ]
    else:
        walks = [Walk(asked.address, sign_in, text, joins=joins, slips=asked.slips) for text in texts]

    def one(walk: Walk) -> Walked:
        row = walk.walk()
        print(told(row), flush=True)
        return row

    # A process that is killed takes along what others ask of it: one walk at a time then.
    with ThreadPoolExecutor(1 if asked.browser or asked.faults else asked.workers) as pool:
        rows = list(pool.map(one, walks))
    print(total(rows))
    if asked.faults:
        print(f"faults: {', '.join(f'{name} {n}' for name, n in sorted(faults.made.items()))}")
    return 0 if all(row.right for row in rows) else 1


if __name__ == "__main__":
    sys.exit(main())
