"""Every text in a template is marked for translation, and a template's lines can be read."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest

SRC = Path(__file__).resolve().parents[2] / "src/bulwark"
TEMPLATES = sorted(path for path in SRC.rglob("templates/**/*") if path.suffix in (".html", ".svg"))
LONGEST_LINE = 350

_TOKEN = re.compile(
    r"(?P<comment>\{#.*?#\}|\{%-?\s*comment\b.*?endcomment\s*%\}|<!--.*?-->)"
    r"|(?P<classes>\{%\s*block (?:body_class|main_class|lang)\s*%\}.*?\{%\s*endblock\s*%\})"
    r"|(?P<marked>\{%\s*blocktranslate\b.*?endblocktranslate\s*%\})"
    r"|(?P<django>\{%.*?%\}|\{\{.*?\}\})"
    r"|(?P<code><(script|style)\b.*?</(?:script|style)>)"
    r"|(?P<tag></?[A-Za-z!](?:\{%.*?%\}|\{\{.*?\}\}|\"(?:\{%.*?%\}|\{\{.*?\}\}|[^\"])*\"|'[^']*'|[^>\"'])*>)"
    r"|(?P<text>[^<{]+|[<{])",
    re.DOTALL,
)
_SPOKEN = re.compile(r"\b(?:aria-label|aria-description|alt|placeholder|title)=\"((?:\{%.*?%\}|\{\{.*?\}\}|[^\"])*)\"")
_DJANGO = re.compile(r"\{%\s*blocktranslate\b.*?endblocktranslate\s*%\}|\{%.*?%\}|\{\{.*?\}\}|&#?\w+;", re.DOTALL)


def unmarked(source: str) -> Iterator[str]:
    """Texts that a person reads or hears and that no translator would be shown."""
    for token in _TOKEN.finditer(source):
        if token["text"] and re.search(r"[^\W\d_]", _DJANGO.sub("", token["text"])):
            yield token["text"].strip()
        elif token["tag"]:
            for spoken in _SPOKEN.findall(token["tag"]):
                if re.search(r"[^\W\d_]", _DJANGO.sub("", spoken)):
                    yield spoken


@pytest.mark.parametrize("path", TEMPLATES, ids=lambda path: path.relative_to(SRC).as_posix())
def test_every_text_is_marked_for_translation(path: Path) -> None:
    assert list(unmarked(path.read_text(encoding="utf-8"))) == []


@pytest.mark.parametrize(
    ("source", "found"),
    [
        ("<p>Wash now</p>", ["Wash now"]),
        ('<p>{% translate "Wash now" %}</p>', []),
        ("<p>{% blocktranslate %}Wash {{ who }} now{% endblocktranslate %}</p>", []),
        ('<svg aria-label="The wall"></svg>', ["The wall"]),
        ("<svg aria-label=\"{% translate 'The wall' %}\"></svg>", []),
        ('<b class="a{% if b > 2 %} c{% endif %}">{{ n }} · {{ m }}</b>', []),
    ],
)
def test_the_check_itself_tells_marked_from_unmarked(source: str, found: list[str]) -> None:
    assert list(unmarked(source)) == found


@pytest.mark.parametrize("path", TEMPLATES, ids=lambda path: path.relative_to(SRC).as_posix())
def test_no_line_is_longer_than_a_screen(path: Path) -> None:
    long = [
        n for n, line in enumerate(path.read_text(encoding="utf-8").splitlines(), start=1) if len(line) > LONGEST_LINE
    ]

    assert long == []


@pytest.mark.parametrize("path", TEMPLATES, ids=lambda path: path.relative_to(SRC).as_posix())
def test_no_comment_runs_over_its_line_onto_the_screen(path: Path) -> None:
    rows = path.read_text(encoding="utf-8").splitlines()
    assert [n for n, row in enumerate(rows, start=1) if row.count("{#") != row.count("#}")] == []
