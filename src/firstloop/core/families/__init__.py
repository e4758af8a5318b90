"""Families: ways to group letters by how they are made."""

from firstloop.core.families.distance import edit_distance, stepping_stone
from firstloop.core.families.movement import BY_MOVEMENT
from firstloop.core.families.scheme import Family, Grouping, Membership, Scheme, group, in_teaching_order
from firstloop.core.families.schemes import SCHEMES

__all__ = [
    "BY_MOVEMENT",
    "SCHEMES",
    "Family",
    "Grouping",
    "Membership",
    "Scheme",
    "edit_distance",
    "group",
    "in_teaching_order",
    "stepping_stone",
]
