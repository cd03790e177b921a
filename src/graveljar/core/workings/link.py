"""Workings of each link: what it brings, what its source gives for it, what comes of both."""

from graveljar.core.analysis.link_operation import LinkOperation
from graveljar.core.context import Context
from graveljar.core.text import quantity
from graveljar.core.views.links import combined_wh
from graveljar.core.workings.working import Figures, summed


def keep_links(figures: Figures, context: Context) -> None:
    """Keep the figures of every link that charges."""
    for link in context.network.design.links:
        feeding = context.analysis.link_operations[link.id]
        if not feeding.full.watts:
            continue
        _keep_power(figures, feeding)
        _keep_source(figures, feeding)
        _keep_refill(figures, context, feeding)
        if not context.network.is_source(feeding.source):
            _keep_combined(figures, context, feeding)


def _keep_power(figures: Figures, feeding: LinkOperation) -> None:
    key, point, charger = f"link.{feeding.link.id}", feeding.full, feeding.link.charger
    terms = {"volts": figures.put("volts at the input, under load", point.volts, "V")}
    parts = []
    for index, limit in enumerate(feeding.limits):
        symbol = f"m{index}"
        # A limit farther up counts by what it passes to the input, if it is the one.
        near = limit.binds in ("its mode", "the converter") or limit.name.startswith("fuse of")
        if limit.binds == "the charger" and charger is not None:
            if not point.given_a:
                # It gets no more than it draws itself.
                continue
            drawn_w = (point.watts - charger.idle_w) / point.given_a * charger.amps + charger.idle_w
            terms[symbol] = figures.put(f"drawn by the {limit.name} at its amps", drawn_w, "W")
            parts.append(f"{{{symbol}}}")
        elif limit.unit == "W":
            terms[symbol] = figures.put(limit.name, limit.limit, "W")
            parts.append(f"{{{symbol}}}")
        elif near and limit.limit * point.volts >= point.watts * (1 - 1e-9):
            terms[symbol] = figures.put(limit.name, limit.limit, "A")
            parts.append(f"{{{symbol}}} × {{volts}}")
        elif limit.binds == point.binds:
            terms[symbol] = figures.put(f"passed by {limit.name}", point.watts, "W")
            parts.append(f"{{{symbol}}}")
    figures.add(
        f"{key}.watts",
        f"Power through {feeding.link.name}",
        point.watts,
        "W",
        f"min({', '.join(parts)})",
        ("trade-growing",),
        (
            "The lowest limit decides: current of the mode or charger, watts of the input, the "
            "converter, fuses and cables, the source."
        ),
        **terms,
    )
    if charger is not None:
        figures.add(
            f"{key}.given_a",
            "Current into the bank",
            point.given_a,
            "A",
            "({watts} − {idle}) × {share} ÷ {bank_v}",
            ("definition",),
            "With the bank hungry and no load on. It falls as the bank gets full.",
            watts=figures.put("drawn by the charger", point.watts, "W"),
            idle=figures.put("its own draw", charger.idle_w, "W"),
            share=figures.put("its efficiency", feeding.passes, "share"),
            bank_v=figures.put("volts of the bank", point.store_v, "V"),
        )


def _keep_source(figures: Figures, feeding: LinkOperation) -> None:
    key = f"link.{feeding.link.id}"
    for end, name, point in (
        ("source_a", "Current from the full source", feeding.full),
        ("source_least_a", "Current from the source at its lowest charge", feeding.least),
        ("wanted_a", "Current it would draw without any other limit", feeding.wanted),
    ):
        if not point.watts:
            continue
        takers = {f"w{i}": figures.put(x.name, x.watts, "W") for i, x in enumerate(point.outflows)}
        figures.add(
            f"{key}.{end}",
            name,
            point.source_a,
            "A",
            f"({summed(takers)}) ÷ {{volts}}",
            ("definition", "ohm"),
            "When a converter steps up, its input current is higher than its output current.",
            volts=figures.put("volts of the source under load", point.source_v, "V"),
            **takers,
        )


def _keep_refill(figures: Figures, context: Context, feeding: LinkOperation) -> None:
    link = feeding.link.id
    store = context.network.names[feeding.link.to]
    for end, name, charging in (
        ("refill_h", f"Hours to fill {store}", context.analysis.charging[link]),
        (
            "from_empty_h",
            f"Hours to fill {store} from its reserve",
            context.analysis.charging_from_empty[link],
        ),
    ):
        if charging is None or not charging.hours:
            continue
        bulk_to, begin = min(charging.taper, charging.end), quantity(charging.begin, "share", 2)
        figures.add(
            f"link.{link}.{end}",
            name,
            charging.hours,
            "h",
            "{bulk} + {taper}",
            ("trade-growing",),
            (
                "Read from a simulated run without loads and with the link always plugged in: "
                "the charge at the start, the deciding limit, the store's own draw, the source "
                "while it lasts."
            ),
            bulk=figures.put(
                f"from {begin} to {quantity(bulk_to, 'share', 2)}", charging.bulk_h, "h"
            ),
            taper=figures.put("the taper, slower and slower", charging.taper_h, "h"),
        )


def _keep_combined(figures: Figures, context: Context, feeding: LinkOperation) -> None:
    key = f"link.{feeding.link.id}"
    figures.add(
        f"{key}.combined",
        "Energy that both supply together",
        combined_wh(context, feeding.link.id),
        "Wh",
        "{own} + {outside} × {way} × {charge}",
        ("trade-growing",),
        "Never the sum of the printed figures: the converter and the charging each take a share.",
        own=figures.term(f"store.{feeding.link.to}.usable"),
        outside=figures.term(f"store.{feeding.source}.usable"),
        way=figures.put("share that arrives at the input", feeding.way_efficiency, "share"),
        charge=figures.put("charging efficiency", feeding.efficiency, "share"),
    )
