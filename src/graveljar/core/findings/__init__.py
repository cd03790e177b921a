"""Judgements on a design: every rule in order, and what its remedies would change."""

import logging
from typing import Final

from graveljar.core.errors import GravelJarError
from graveljar.core.facts import Facts
from graveljar.core.findings.cable import CABLE_RULES
from graveljar.core.findings.converter import CONVERTER_RULES
from graveljar.core.findings.finding import Finding, Remedy, Rule
from graveljar.core.findings.fuse import FUSE_RULES
from graveljar.core.findings.inverter import INVERTER_RULES
from graveljar.core.findings.joint import JOINT_RULES
from graveljar.core.findings.link import LINK_RULES
from graveljar.core.findings.load import LOAD_RULES
from graveljar.core.findings.run import RUN_RULES
from graveljar.core.findings.station import STATION_RULES
from graveljar.core.findings.store import STORE_RULES
from graveljar.core.findings.window import WINDOW_RULES

# From the joint outward: what is wrongly joined matters before how long it lasts.
RULES: Final[tuple[Rule, ...]] = (
    *STORE_RULES,
    *WINDOW_RULES,
    *LINK_RULES,
    *STATION_RULES,
    *INVERTER_RULES,
    *CONVERTER_RULES,
    *FUSE_RULES,
    *CABLE_RULES,
    *JOINT_RULES,
    *LOAD_RULES,
    *RUN_RULES,
)

LOG: Final = logging.getLogger(__name__)
_ORDER: Final = {"stop": 0, "fix": 1, "watch": 2, "note": 3}


def judge(facts: Facts) -> tuple[Finding, ...]:
    """All findings, the gravest first. A rule that fails costs its findings, and is said."""
    found: list[Finding] = []
    for rule in RULES:
        try:
            found += rule(facts)
        except GravelJarError:
            raise
        except Exception:
            LOG.exception("rule %s", rule.__name__)
            found.append(_failed(rule.__name__))
    return tuple(sorted(found, key=lambda finding: _ORDER[finding.severity]))


def _failed(name: str) -> Finding:
    what = name.replace("_", " ")
    return Finding(
        "program.rule_failed",
        "watch",
        f"rule-{name}".replace("_", "-"),
        f"One check could not be made: {what}",
        "A fault of this program, not of the design. Every other check was made.",
        (),
        (Remedy("Judge this one by hand."),),
        ("design",),
    )
