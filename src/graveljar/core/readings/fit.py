"""Fits a log to the part of a design that it was taken on."""

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import Bank, Load
from graveljar.core.readings.fit_bank import fit_bank
from graveljar.core.readings.fit_load import fit_load
from graveljar.core.readings.fitted import Fit, LogData


def fit_log(context: Context, subject: str, log: LogData) -> Fit:
    """What a log tells of a bank or a load.

    Raises
    ------
    InvalidDocument : the design has no such part, or it is of another kind.
    """
    design = context.network.design
    part = next((x for x in (*design.stores, *design.loads) if x.id == subject), None)
    if isinstance(part, Bank):
        return fit_bank(context, subject, log)
    if isinstance(part, Load):
        return fit_load(context, subject, log)
    name = context.network.names.get(subject, subject)
    message = f"“{name}” is neither a battery bank nor a load: logs are fitted to these."
    raise InvalidDocument(message, (Problem("/subject", "not_fitted", message),))
