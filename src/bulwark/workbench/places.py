"""Where food is put, in words."""

from django.utils.translation import gettext_lazy as _l

_PLACES = {
    "fridge": (_l("in the fridge"), _l("fridge")),
    "fan_fridge": (_l("in the fan fridge"), _l("fan fridge")),
    "blast": (_l("in the blast chiller"), _l("blast chiller")),
    "ice_bath": (_l("in an ice bath"), _l("ice bath")),
    "stirred_ice_bath": (_l("in an ice bath, stirred"), _l("stirred ice bath")),
    "room": (_l("in the room"), _l("room")),
    "tap_water": (_l("in cold running water"), _l("running water")),
    "freezer": (_l("in the freezer"), _l("freezer")),
    "fan_freezer": (_l("in the fan freezer"), _l("fan freezer")),
}


def where_words(place: str) -> str:
    """Where: "in the fridge"."""
    return str(_PLACES[place][0])


def place_name(place: str) -> str:
    """The place itself: "fridge"."""
    return str(_PLACES[place][1])
