"""A lesson: its control points, the events of a bench, the state they fold to, and what the evidence shows."""

from foodsafety.lesson.after_pause import Back, coming_back
from foodsafety.lesson.between import Between, Owed, owed_after, soiled, washed_between
from foodsafety.lesson.bounds import time_bounds
from foodsafety.lesson.breaches import SERVED_UNPROVEN, mended_by_heat, remade_helps, unsaid_menders, unsaid_waste
from foodsafety.lesson.chilling import ChillAhead, Chilling, Due, chill_ahead, chilling_of
from foodsafety.lesson.clocks import StepClock, step_clocks
from foodsafety.lesson.contacts import Foreseen, foreseen, live_step, unrinsed, would_breach
from foodsafety.lesson.control_points import safety_plan
from foodsafety.lesson.correcting import Correction, allowed, brick_corrections, corrections
from foodsafety.lesson.debrief import Catch, Lane, ToTeach, best_catch, lanes, state_at, teach_next
from foodsafety.lesson.entries import ENTRIES, may_send, read_entry
from foodsafety.lesson.entries.catching_up import ADVICE
from foodsafety.lesson.entries.kit import CLEANING
from foodsafety.lesson.entries.pausing import WHY_PAUSED
from foodsafety.lesson.entries.people import TOUCHED, WHY_WENT
from foodsafety.lesson.entries.shelf import PART_ENDS, PART_PLACES, WHY_DISCARDED, WRAPS
from foodsafety.lesson.entries.steps import begun_s, left_s
from foodsafety.lesson.entries.watching import SEEN, WATCHED
from foodsafety.lesson.entry import TAKES_BACK, AtBench, Entry, Event, voided
from foodsafety.lesson.evidence import Brick, bricks
from foodsafety.lesson.folding import advance, fold, fold_on
from foodsafety.lesson.food_state import Box, FoodState, Gone, Kept, Part, Proof, Signed
from foodsafety.lesson.forgetting import forgotten, other_names, people_in
from foodsafety.lesson.keeping import KeptFood, kept_food, standing_why, would_keep
from foodsafety.lesson.late import Late, gone_s, has_begun, late_at, reached
from foodsafety.lesson.leaving import Side, may_leave_out
from foodsafety.lesson.naming import Names, nameable, names_given, under_names
from foodsafety.lesson.ovens import at_other_heat, uses_for
from foodsafety.lesson.plan import PHASES, ControlPoint, Phase, Plan
from foodsafety.lesson.proving import pieces_needed, settle, thrown_away, unproven_in, verdict_of
from foodsafety.lesson.replay import ReplayedLog, process_from_log
from foodsafety.lesson.sharing import FRIDGE, OvenChange, SharedChange, oven_changes, shared_changes, sources
from foodsafety.lesson.simulate import SLIPS, Slip, rehearse
from foodsafety.lesson.slips import CREWS, PLANTED, crewed, plant
from foodsafety.lesson.standing import clock_limit, clock_of, storage_categories
from foodsafety.lesson.state import (
    READY_CHECKS,
    Advice,
    Incident,
    Noted,
    OvenUse,
    Pause,
    PersonState,
    State,
    Waste,
    is_ready,
    next_step,
    opening_state,
)
from foodsafety.lesson.telling import Told
from foodsafety.lesson.to_read import Lacking, lacking, lacking_of
from foodsafety.lesson.watching import to_watch

__all__ = [
    "ADVICE",
    "CLEANING",
    "CREWS",
    "ENTRIES",
    "FRIDGE",
    "PART_ENDS",
    "PART_PLACES",
    "PHASES",
    "PLANTED",
    "READY_CHECKS",
    "SEEN",
    "SERVED_UNPROVEN",
    "SLIPS",
    "TAKES_BACK",
    "TOUCHED",
    "WATCHED",
    "WHY_DISCARDED",
    "WHY_PAUSED",
    "WHY_WENT",
    "WRAPS",
    "Advice",
    "AtBench",
    "Back",
    "Between",
    "Box",
    "Brick",
    "Catch",
    "ChillAhead",
    "Chilling",
    "ControlPoint",
    "Correction",
    "Due",
    "Entry",
    "Event",
    "FoodState",
    "Foreseen",
    "Gone",
    "Incident",
    "Kept",
    "KeptFood",
    "Lacking",
    "Lane",
    "Late",
    "Names",
    "Noted",
    "OvenChange",
    "OvenUse",
    "Owed",
    "Part",
    "Pause",
    "PersonState",
    "Phase",
    "Plan",
    "Proof",
    "ReplayedLog",
    "SharedChange",
    "Side",
    "Signed",
    "Slip",
    "State",
    "StepClock",
    "ToTeach",
    "Told",
    "Waste",
    "advance",
    "allowed",
    "at_other_heat",
    "begun_s",
    "best_catch",
    "brick_corrections",
    "bricks",
    "chill_ahead",
    "chilling_of",
    "clock_limit",
    "clock_of",
    "coming_back",
    "corrections",
    "crewed",
    "fold",
    "fold_on",
    "foreseen",
    "forgotten",
    "gone_s",
    "has_begun",
    "is_ready",
    "kept_food",
    "lacking",
    "lacking_of",
    "lanes",
    "late_at",
    "left_s",
    "live_step",
    "may_leave_out",
    "may_send",
    "mended_by_heat",
    "nameable",
    "names_given",
    "next_step",
    "opening_state",
    "other_names",
    "oven_changes",
    "owed_after",
    "people_in",
    "pieces_needed",
    "plant",
    "process_from_log",
    "reached",
    "read_entry",
    "rehearse",
    "remade_helps",
    "safety_plan",
    "settle",
    "shared_changes",
    "soiled",
    "sources",
    "standing_why",
    "state_at",
    "step_clocks",
    "storage_categories",
    "teach_next",
    "thrown_away",
    "time_bounds",
    "to_watch",
    "under_names",
    "unproven_in",
    "unrinsed",
    "unsaid_menders",
    "unsaid_waste",
    "uses_for",
    "verdict_of",
    "voided",
    "washed_between",
    "would_breach",
    "would_keep",
]
