"""What each role may do, in one place. A page that stands in no list here is the educators' to change and the
assistants' to see: what is new is never open to more people than was meant."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal

Role = Literal["owner", "educator", "assistant", "reader"]
ROLES: tuple[Role, ...] = ("owner", "educator", "assistant", "reader")

# One's own account, and what needs no account at all.
_ANYBODY = frozenset(
    {
        "sign_in",
        "sign_out",
        "forgotten",
        "account",
        "account_everywhere",
        "welcome",
        "set_unit",
        "empty",
        "workbench_shared",
    }
    | {"join", "join_code", "bench", "bench_fragment", "bench_entries", "bench_here", "bench_live", "bench_leave"}
    | {"bench_label", "bench_put", "probe_reading", "worker"}
    | {"practice_join", "practice_code", "practice_answer", "certificate"}
    | {"pad", "pad_join", "pad_screen", "pad_entries", "pad_here", "front", "front_join"}
)
# Long work is seen and stopped by whoever asked for it.
_OWN_WORK = frozenset({"job", "job_file", "job_stop"})
# A paper changes nothing, though asking for one is sent.
_PAPERS = frozenset(
    {
        "record_pdf",
        "bench_flow_pdf",
        "flow_pdf",
        "flow_pair_pdf",
        "recipe_pdf",
        "pack_paper",
        "round_paper",
        "certificate_paper",
    }
)
# What a reader of records may look at: no page with a code on it that lets somebody in at a bench.
_RECORDS = frozenset(
    {
        "today",
        "record",
        "record_fragment",
        "record_csv",
        "record_pdf",
        "record_zip",
        "record_xlsx",
        "record_jsonl",
        "label",
        "bench_flow",
    }
    | {"bench_flow_svg", "bench_flow_pdf", "plan", "rules", "lesson_sheets", "alarms"}
    | {"records_brought", "record_brought"}
)
# What an assistant does in a lesson.
_LESSON = frozenset(
    {
        "lesson_open",
        "lesson_close",
        "lesson_reopen",
        "bench_entry",
        "bench_enter",
        "bench_code",
        "device_away",
        "take_in",
        "printer_calls",
        "lesson_pause",
        "hurts",
    }
    | {
        "bench_people",
        "bench_paper",
        "bench_card",
        "way_back_taken",
        "front_away",
        "hand_over",
        "lesson_hold",
        "lesson_shared",
        "shelf_act",
        "shelf_failure",
        "shelf_labels",
        "shelf_work",
        "shelf_keep",
        "brought_taken",
        "note_words",
        "bring_in",
        "tray",
        "take_stock_here",
        "take_stock_entry",
        "recall",
    }
    | {"round_answer", "round_hands", "round_end"}
    | {"workbench_tool", "log_live", "lesson_did", "probe_check"}
)
# Who works here is the owner's.
_PEOPLE = frozenset({"people", "person", "invite", "names_kept"})

# All that is held of one learner, who was hurt among it: whoever teaches them answers for it.
_OF_ONE = frozenset({"learner_held"})

_CHANGES: Mapping[Role, frozenset[str] | None] = MappingProxyType(
    {"owner": None, "educator": None, "assistant": _LESSON, "reader": frozenset()}
)


# What whoever stands in at the front of a lesson needs: that lesson while it runs, nothing of the kitchen's.
_STANDS_IN = frozenset(
    {"front", "front_join", "wall", "wall_fragment", "wall_live", "bench_detail", "bench_entry", "bench_enter"}
    | {
        "bench_people",
        "bench_paper",
        "bench_card",
        "bench_flow",
        "ways_back",
        "way_back_taken",
        "lesson_pause",
        "hurts",
    }
    | {"lesson_close", "join", "join_code", "sign_in", "worker", "pad_join"}
)


def may_stand_in(page: str) -> bool:
    """True if a stand-in may look at a page of their lesson, and send it something."""
    return page in _STANDS_IN


def reads_hurts(role: Role) -> bool:
    """True if somebody of this role may read who was hurt: whoever helps writes it down and does not read it."""
    return role in ("owner", "educator")


def may(role: Role, page: str, *, changes: bool) -> bool:
    """True if somebody of this role may look at a page, or (``changes``) send it something."""
    if page in _ANYBODY or page in _OWN_WORK:
        return True
    if page in _PEOPLE:
        return role == "owner"
    if page in _OF_ONE:
        return reads_hurts(role)
    if not changes or page in _PAPERS:
        return role != "reader" or page in _RECORDS
    allowed = _CHANGES[role]
    return allowed is None or page in allowed
