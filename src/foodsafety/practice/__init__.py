"""Practice: puzzles from a group's own recipe, when each is asked again, and what was learnt."""

from foodsafety.practice.gain import Gain, gain_of_groups, gain_of_pairs
from foodsafety.practice.heat_checks import practised_by
from foodsafety.practice.making import KINDS, a_round, make, make_new
from foodsafety.practice.puzzle import LEVELS, Amount, Choice, Material, Puzzle
from foodsafety.practice.spacing import SOURCE, Asked, Boxed, boxed, due_rules

__all__ = [
    "KINDS",
    "LEVELS",
    "SOURCE",
    "Amount",
    "Asked",
    "Boxed",
    "Choice",
    "Gain",
    "Material",
    "Puzzle",
    "a_round",
    "boxed",
    "due_rules",
    "gain_of_groups",
    "gain_of_pairs",
    "make",
    "make_new",
    "practised_by",
]
