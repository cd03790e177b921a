"""Fits a log to the part of a design that it was taken on."""

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import Bank, Converter, Inverter, Load
from graveljar.core.readings.fit_bank import fit_bank
from graveljar.core.readings.fit_load import fit_load
from graveljar.core.readings.fit_stage import fit_stage
from graveljar.core.readings.fitted import Fit, LogData


def fit_log(context: Context, subject: str, log: LogData) -> Fit:
    """What a log tells of a bank, a load, an inverter or a converter.

    Raises
    ------
    InvalidDocument : the design has no such part, or it is of another kind.
    """
    design = context.network.design
    part = next(
        (x for x in (*design.stores, *design.stages, *design.loads) if x.id == subject), None
    )
    if isinstance(part, Bank):
        return fit_bank(context, subject, log)
    if isinstance(part, Load):
        return fit_load(context, subject, log)
    if isinstance(part, Inverter | Converter):
        return fit_stage(context, subject, log)
    name = context.network.names.get(subject, subject)
    message = f"“{name}” cannot be fitted to a log: banks, loads, inverters and converters can."
    raise InvalidDocument(message, (Problem("/subject", "not_fitted", message),))
