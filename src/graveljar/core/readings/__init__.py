"""The bench book's readings: what is measured, how it is judged, what may be adopted."""

from graveljar.core.readings.against import Against, against
from graveljar.core.readings.both import BothFigures, both_figures
from graveljar.core.readings.capacity_of import DrawnRow, capacity_of
from graveljar.core.readings.checklist import Check, checklist
from graveljar.core.readings.effect import FiguresEffect, effect_of_figures
from graveljar.core.readings.fit import fit_log
from graveljar.core.readings.fitted import Fit, LogData
from graveljar.core.readings.judge import judge_reading
from graveljar.core.readings.judged import Adoption, Judged, Result
from graveljar.core.readings.outlook import Now, Outlook, outlook_of
from graveljar.core.readings.reading import AnyReading, CapacityReading, Reading

__all__ = [
    "Adoption",
    "Against",
    "AnyReading",
    "BothFigures",
    "CapacityReading",
    "Check",
    "DrawnRow",
    "FiguresEffect",
    "Fit",
    "Judged",
    "LogData",
    "Now",
    "Outlook",
    "Reading",
    "Result",
    "against",
    "both_figures",
    "capacity_of",
    "checklist",
    "effect_of_figures",
    "fit_log",
    "judge_reading",
    "outlook_of",
]
