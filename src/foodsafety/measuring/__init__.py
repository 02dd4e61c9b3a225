"""Temperatures as they come: logs looked over, thermometers checked and placed, simulated instruments."""

from foodsafety.measuring.csv_logs import CsvLog, log_of_csv, question_log, read_log_csv
from foodsafety.measuring.logs import TemperatureLog, review_log
from foodsafety.measuring.simulators import (
    DoorOpening,
    ProbeDisplay,
    ProbeFaults,
    SimulatedCook,
    SimulatedStore,
    SimulatedStoreState,
    probe_shows,
    store_air,
)
from foodsafety.measuring.thermometers import (
    ProbePlacement,
    ThermometerCheck,
    ThermometerFit,
    boiling_c,
    check_every_days,
    check_thermometer,
    fitting_thermometers,
    pressure_kpa,
    probe_placement,
    probed_foods,
    thermometer_kinds,
)
from foodsafety.measuring.typed import (
    PieceReading,
    TypedLog,
    clock_of_day,
    minutes_seconds,
    typed_probings,
    typed_readings,
)

__all__ = [
    "CsvLog",
    "DoorOpening",
    "PieceReading",
    "ProbeDisplay",
    "ProbeFaults",
    "ProbePlacement",
    "SimulatedCook",
    "SimulatedStore",
    "SimulatedStoreState",
    "TemperatureLog",
    "ThermometerCheck",
    "ThermometerFit",
    "TypedLog",
    "boiling_c",
    "check_every_days",
    "check_thermometer",
    "clock_of_day",
    "fitting_thermometers",
    "log_of_csv",
    "minutes_seconds",
    "pressure_kpa",
    "probe_placement",
    "probe_shows",
    "probed_foods",
    "question_log",
    "read_log_csv",
    "review_log",
    "store_air",
    "thermometer_kinds",
    "typed_probings",
    "typed_readings",
]
