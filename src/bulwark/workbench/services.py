"""Attaching a sheet to a lesson, and taking it off again."""

from django.db import transaction

from bulwark.people.actors import Actor
from bulwark.workbench import selectors
from bulwark.workbench.models import Sheet
from foodsafety.quantities import CoreError

MOST_SHEETS = 40


@transaction.atomic
def attach(*, by: Actor, lesson_id: int, tool: str, query: str, title: str) -> Sheet:
    """Keeps a tool's question with a lesson. The same question twice is one sheet. Raises CoreError
    for more of them than anybody reads."""
    mine = selectors.sheets_of(by, lesson_id)
    same = mine.filter(tool=tool, query=query).first()
    if same:
        return same
    if mine.count() >= MOST_SHEETS:
        raise CoreError("lesson", "too_many_sheets", most=MOST_SHEETS)
    return Sheet.objects.create(lesson_id=lesson_id, tool=tool, query=query, title=title[:160], made_by_id=by.user)


def detach(*, sheet: Sheet) -> None:
    """Takes a sheet off its lesson; nothing of the lesson's record rests on it."""
    sheet.delete()
