"""The sheet: what to buy, how to build it safely, what to hang on the cupboard door."""

from graveljar.core.sheet.sheet import Sheet, sheet_of

__all__ = ["Sheet", "sheet_of"]
