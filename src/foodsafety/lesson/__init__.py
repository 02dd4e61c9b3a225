"""A lesson: its control points, the events of a bench, the state they fold to, and what the evidence shows."""

from foodsafety.lesson.control_points import safety_plan
from foodsafety.lesson.events import PAYLOAD_CHECKS, READY_CHECKS, Event, check_payload
from foodsafety.lesson.evidence import Brick, bricks
from foodsafety.lesson.folding import advance, fold, fold_on
from foodsafety.lesson.handlers import verdict_of, would_breach
from foodsafety.lesson.plan import PHASES, ControlPoint, Phase, Plan
from foodsafety.lesson.replay import ReplayedLog, Told, process_from_log
from foodsafety.lesson.simulate import SLIPS, Slip, rehearse
from foodsafety.lesson.state import Incident, State, is_ready, next_step, opening_state

__all__ = [
    "PAYLOAD_CHECKS",
    "PHASES",
    "READY_CHECKS",
    "SLIPS",
    "Brick",
    "ControlPoint",
    "Event",
    "Incident",
    "Phase",
    "Plan",
    "ReplayedLog",
    "Slip",
    "State",
    "Told",
    "advance",
    "bricks",
    "check_payload",
    "fold",
    "fold_on",
    "is_ready",
    "next_step",
    "opening_state",
    "process_from_log",
    "rehearse",
    "safety_plan",
    "verdict_of",
    "would_breach",
]
