"""Heat through food: its properties and shape, what surrounds it, conduction, freezing, and forecasts from readings."""

from foodsafety.heat.cells import conduct_in_cells
from foodsafety.heat.conduction import LONGEST_S, conduct, pan_fried
from foodsafety.heat.environments import cover_layers, environment, environments, h_through
from foodsafety.heat.forecast import Array, CoolingCourses, Forecast, cooling_courses, forecast_at
from foodsafety.heat.geometry import SIZES, Body, ConstantProperties, Shape, Surroundings, TemperatureCourse
from foodsafety.heat.modes import SHELLS
from foodsafety.heat.properties import LATENT_KJ_KG, FoodProperties, composition_from
from foodsafety.heat.series import temperature_left
from foodsafety.heat.shells import HeatTable, Level, conduct_in_shells

__all__ = [
    "LATENT_KJ_KG",
    "LONGEST_S",
    "SHELLS",
    "SIZES",
    "Array",
    "Body",
    "ConstantProperties",
    "CoolingCourses",
    "FoodProperties",
    "Forecast",
    "HeatTable",
    "Level",
    "Shape",
    "Surroundings",
    "TemperatureCourse",
    "composition_from",
    "conduct",
    "conduct_in_cells",
    "conduct_in_shells",
    "cooling_courses",
    "cover_layers",
    "environment",
    "environments",
    "forecast_at",
    "h_through",
    "pan_fried",
    "temperature_left",
]
