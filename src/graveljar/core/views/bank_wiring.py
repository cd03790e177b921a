"""How the batteries of a bank are joined, and where its two cables come off."""

from dataclasses import dataclass

from graveljar.core.model import Bank


@dataclass(frozen=True)
class BankWiring:
    """How the bank is joined, and which strings, from 0, its two leads come off."""

    store: str
    series: int
    parallel: int
    positive_string: int
    negative_string: int
    text: str


def wiring_of(bank: Bank) -> BankWiring:
    """How a bank is joined."""
    series, parallel = bank.series, bank.parallel
    if parallel == 1:
        text = "In series only: positive from the first battery, negative from the last."
    else:
        text = (
            "Connect positive at one end and negative at the other, so that the batteries "
            "share. Use links of equal length between them, and a fuse for each parallel "
            "battery."
        )
    return BankWiring(bank.id, series, parallel, 0, parallel - 1, text)
