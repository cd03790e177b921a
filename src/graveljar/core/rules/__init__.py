"""The rules that judge a design, in order."""

import hashlib
import logging
from collections.abc import Iterable
from dataclasses import replace
from typing import Final
from weakref import WeakKeyDictionary

from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.model import Design
from graveljar.core.rules.cable import CABLE_RULES
from graveljar.core.rules.charger import CHARGER_RULES
from graveljar.core.rules.converter import CONVERTER_RULES
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.fuse import FUSE_RULES
from graveljar.core.rules.inverter import INVERTER_RULES
from graveljar.core.rules.joint import JOINT_RULES
from graveljar.core.rules.link import LINK_RULES
from graveljar.core.rules.load import LOAD_RULES
from graveljar.core.rules.port import PORT_RULES
from graveljar.core.rules.run import RUN_RULES
from graveljar.core.rules.source import SOURCE_RULES
from graveljar.core.rules.station import STATION_RULES
from graveljar.core.rules.store import STORE_RULES
from graveljar.core.rules.vehicle import VEHICLE_RULES
from graveljar.core.rules.window import WINDOW_RULES
from graveljar.core.stop import heed

# From the joint outward: what is wrongly joined matters before how long it lasts.
RULES: Final[tuple[Rule, ...]] = (
    *STORE_RULES,
    *WINDOW_RULES,
    *LINK_RULES,
    *CHARGER_RULES,
    *SOURCE_RULES,
    *STATION_RULES,
    *PORT_RULES,
    *VEHICLE_RULES,
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
_JUDGED: Final[WeakKeyDictionary[Context, tuple[Finding, ...]]] = WeakKeyDictionary()


def judge(context: Context) -> tuple[Finding, ...]:
    """All findings, the gravest first, worked out once for each context.

    A rule that fails costs its findings, and is said. Of a context that is only tried they are
    worked out anew each time: what may solve them holds on to it, so it must not hold on to them.
    """
    if context.tried:
        return _judge(context)
    findings = _JUDGED.get(context)
    if findings is None:
        findings = _JUDGED[context] = _judge(context)
    return findings


def _judge(context: Context) -> tuple[Finding, ...]:
    return gravest_first(finding for rule in RULES for finding in findings_of(rule, context))


def findings_of(rule: Rule, context: Context) -> list[Finding]:
    """Findings of one rule; of one that fails that it did."""
    heed()
    try:
        found = list(rule(context))
        if not context.tried:
            # Here, where a fault in them costs this rule alone.
            found = [replace(finding, ways=finding.remedies) for finding in found]
        return found
    except GravelJarError:
        raise
    except Exception:
        LOG.exception("rule %s on design %s", rule.__name__, digest_of(context.network.design))
        return [_failed(rule.__name__)]


def gravest_first(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Findings in the order in which they are told."""
    return tuple(sorted(findings, key=lambda finding: _ORDER[finding.severity]))


def digest_of(design: Design) -> str:
    """A short mark by which a design is found again: the same for the same document."""
    return hashlib.sha256(design.model_dump_json().encode()).hexdigest()[:12]


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
