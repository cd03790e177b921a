"""Words of labels in four languages: what tells a part, a chemistry, in and out."""

from typing import Final, Literal

PartKind = Literal["battery", "inverter", "converter", "charger", "panel", "station"]

# What tells the kind of a part; the first that is found counts.
KIND_WORDS: Final[dict[PartKind, str]] = {
    "station": r"(?s)power ?station|estación|station électrique|(?=.*\dk?\s?wh)(?=.*usb)|"
    r"(?=.*\dk?\s?wh)(?=.*(?:\bac\b|socket)).*\d\s?w\b.*input",
    "panel": r"\bvoc\b|\bvmpp?\b|\bisc\b|solar panel|pv module|solarmodul|panneau",
    "charger": r"\bmppt\b|\bpwm\b|charger\b|ladegerät|chargeur|cargador|solar controller",
    "converter": r"dc[- ]?dc|converter|step[- ](?:up|down)|\bbuck\b|\bboost\b|wandler|regulator",
    "inverter": r"inverter|sine|wechselrichter|onduleur|inversor",
    "battery": r"batter|batería|lifepo4?|\blfp\b|\bagm\b|\bgel\b|lead[- ]acid|\bah\b|\dah\b",
}
CHEMISTRIES: Final = {
    "lfp": r"lifepo4?|\blfp\b|lithium iron|eisenphosphat",
    "nmc": r"li-?ion|lithium[- ]ion|\bnmc\b|\bnca\b",
    "agm": r"\bagm\b|\bgel\b|vrla",
    "flooded": r"flooded|wet cell|open cell|nasszellen",
}
# Figures that a label may lack, in words.
WORDS: Final = {
    "bms_a": "most amps", "bms_peak_a": "peak amps", "low_v": "volts where its protection opens",
    "resistance_mohm": "inner resistance", "peukert": "Peukert exponent",
    "most_series": "most in series", "most_parallel": "most in parallel",
    "cold_charge": "what prevents charging below 0 °C", "discharge_from_c": "coldest for use",
    "resets": "how it restarts", "accepts": "range of input volts", "restarts_v": "restart volts",
    "surge_w": "surge watts", "surge_s": "seconds of its surge", "part_load": "best efficiency",
    "full_load": "efficiency at full load", "idle_w": "idle draw", "sleep": "sleep mode",
    "output_v": "output volts", "output_hz": "frequency", "topology": "up or down",
    "peak_a": "peak amps", "measured_a": "measured amps", "quiescent_w": "own draw",
    "droop_v": "droop", "knee_c": "temperature of its amps", "derate_per_c": "derating",
    "documented": "ambient of its amps", "hold_v": "charge volts", "most_w": "most watts",
    "cold_cut": "stop below 0 °C", "float_v": "float volts",
    "compensates": "temperature compensation", "most_cells": "most cells",
    "voc_per_c": "temperature coefficient", "label_wh": "Wh", "measured_wh": "measured Wh",
    "cells": "cells in series", "usable_share": "usable share", "sleeps_below_w": "when it sleeps",
    "sleeps_after_h": "how soon it sleeps", "pass_through": "whether it charges and runs together",
    "charge_efficiency": "charging efficiency", "taper_from": "where charging slows",
    "most_in_w": "most watts in", "changeover": "break at a changeover",
}  # fmt: skip
# Words between what goes in and what comes out.
TO: Final = ("to", "auf", "→", "->", ">", "à", "a")
