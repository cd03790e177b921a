"""Every caution, in order of danger, and what in a design each is tied to. Common practice."""

from typing import Final

from graveljar.core.cautions import subjects
from graveljar.core.cautions.caution import Caution, Subjects

# What hurts at once first, then what hurts slowly, then what is lost.
CAUTIONS: Final[tuple[tuple[Caution, Subjects], ...]] = (
    (
        Caution(
            "caution.mains", (), "Behind the inverter is mains voltage",
            "It kills like the wall socket does.",
            (
                "Let a licensed electrician do fixed wiring, earthing, neutral bonding and "
                "residual-current protection.",
                "Use sockets and leads made for it; none of them home-made.",
                "A lead thinner than its source's breaker protects needs a breaker of its own.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.inverters,
    ),
    (
        Caution(
            "caution.touch_volts", (), "These volts must not be touched",
            "From 60 V direct current on (30 V in wet places) a touch is dangerous, and an arc "
            "does not go out.",
            (
                "Cover every bare part; no terminal within reach of a hand.",
                "Pull the main fuse before working on it, and measure that nothing is left.",
                "Use fuses, switches and connectors rated for these volts of direct current.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.touchable,
    ),
    (
        Caution(
            "caution.earth_faults", (), "An earth-fault switch may not trip behind an inverter",
            "Without a bond between neutral and earth a residual-current device (RCD, GFCI) "
            "sees no fault, and a touched case stays live. Bonded twice, it trips for nothing.",
            (
                "Let an electrician decide where neutral and earth are bonded, once, and test it.",
                "Press its test button with the inverter running.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.inverters,
    ),
    (
        Caution(
            "caution.shore", (), "Never join shore power and inverter",
            "Two sources on one circuit destroy the inverter, or make pins live unexpectedly.",
            (
                "Use a transfer switch that joins one at a time, fitted by an electrician.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.with_shore,
    ),
    (
        Caution(
            "caution.back_feed", (), "Never feed a house through a plug",
            "A lead with two plugs has live pins, and kills those who work on the dead line, "
            "whichever breaker is off.",
            ("Use a transfer switch fitted by an electrician, or plug appliances in one by one.",),
            ("a licensed electrician",), True,
        ),
        subjects.inverters,
    ),
    (
        Caution(
            "caution.carbon_monoxide", (), "Engines and fuel heaters make carbon monoxide",
            "It has no smell, and kills in a garage, a van or a cabin within minutes.",
            (
                "Never run an engine or a generator in a garage, or beside an open window or door.",
                "Lead the exhaust of a heater outside, tight; feed it air from outside.",
                "Hang up a carbon monoxide alarm, and test it.",
            ),
            ("the vehicle's maker or workshop",),
        ),
        subjects.burning,
    ),
    (
        Caution(
            "caution.lithium_fire", (), "Lithium that is damaged, swollen or wet may burn",
            "It burns with poisonous smoke, and starts again after it seems to be out.",
            (
                "Do not use or charge one that was dropped, is swollen or got wet.",
                "Place it where it does not block the way out; hang up a smoke alarm.",
                "If it smokes: get out, and call the fire brigade. Much water cools it.",
            ),
            ("the maker's manual",),
        ),
        subjects.lithium,
    ),
    (
        Caution(
            "caution.short_circuit", (), "A battery can weld a spanner",
            "A short circuit makes an arc that burns hands and eyes, and sets fire to things.",
            (
                "Take off rings and watches; insulate tools; cover the posts you do not work on.",
                "Fit the fuse at the post before anything else; connect it last.",
                "Measure volts and polarity before plugging in.",
            ),
        ),
        subjects.posts,
    ),
    (
        Caution(
            "caution.panels", (), "Panels are live by day",
            "Whatever is switched off behind them, light makes volts in them; several in series "
            "hold an arc.",
            (
                "Cover them, or work at night; measure volts and polarity before the plug goes in.",
                "In frost they give more volts than their label: the input must take that.",
            ),
            ("the maker's manual",),
        ),
        subjects.panels,
    ),
    (
        Caution(
            "caution.dc_arc", (), "Direct current holds an arc",
            "A connector pulled or a switch opened under load draws an arc that goes on.",
            (
                "Switch the loads off first; pull no connector under load.",
                "Use switches rated for these volts of direct current, under load.",
            ),
            ("the maker's manual",),
        ),
        subjects.arcs,
    ),
    (
        Caution(
            "caution.cells", (), "Bare lithium cells look after nothing",
            "Without protection (a BMS) one cell is overcharged or driven below empty, and burns "
            "later.",
            (
                "Do not use a lithium pack without a BMS.",
                "Building from cells: a fuse for each cell, alike cells, insulation between them, "
                "and somebody beside you who has done it.",
            ),
            ("the maker's manual",),
        ),
        subjects.no_bms,
    ),
    (
        Caution(
            "caution.sealed_in_box", (), "Sealed lead-acid needs air too",
            "Overcharged it opens its valves and gives off hydrogen: a gas-tight box bursts.",
            (
                "Use a box with openings at top and bottom, nothing that sparks inside.",
            ),
            ("the maker's manual",),
        ),
        subjects.sealed_in_box,
    ),
    (
        Caution(
            "caution.water", (), "Keep water away",
            "Water in a battery, an inverter or a socket shorts it, and makes cases live.",
            (
                "Mount it above where water collects, under a cover that lets air through.",
                "Use parts rated for the place; look for corrosion twice a year.",
            ),
            ("the maker's manual",),
        ),
        subjects.wet,
    ),
    (
        Caution(
            "caution.hydrogen", (), "Flooded batteries give off hydrogen",
            "While charged they fill a room with a gas that explodes at a spark; their acid burns "
            "skin and eyes.",
            (
                "Charge them in a box vented to the outside, never where people live or sleep.",
                "Nothing that sparks above them; goggles, and an eyewash at hand.",
                "Switch the charger off before you take its clamps off or put them on.",
            ),
            ("the maker's manual",),
        ),
        subjects.vented,
    ),
    (
        Caution(
            "caution.medical", (), "Somebody's health hangs on this",
            "A battery, an inverter, a fuse or a loose plug can fail at night.",
            (
                "Ask the device's maker which power it takes, and the clinician what happens "
                "without.",
                "Have a second plan that needs none of this, and try it.",
                "Try a whole night, with heated parts on, before relying on it.",
            ),
            ("the device maker and a clinician",),
        ),
        subjects.medical,
    ),
    (
        Caution(
            "caution.animals", (), "An animal's life hangs on this",
            "Air, warmth or water that stop for hours kill.",
            ("Have a second plan that needs none of this, and an alarm when power fails.",),
            ("a veterinarian or breeder",),
        ),
        subjects.animals,
    ),
    (
        Caution(
            "caution.frost", (), "No charging of lithium in frost",
            "Charged below 0 °C, cells are damaged for good and may fail dangerously later.",
            (
                "Use a battery with a low-temperature cut, a heater, or wait until it is warm.",
                "Measure at the battery: in the morning it is colder than the air.",
            ),
            ("the maker's manual",),
        ),
        subjects.lithium_in_cold,
    ),
    (
        Caution(
            "caution.over_voltage", (), "Too many volts destroy an input at once",
            "A full battery has more than its nominal volts: “48 V” is up to 58.8 V.",
            (
                "Measure the source full, with no load, before the plug goes in.",
                "Measure polarity at the plug too: centre and outer, plus and minus.",
            ),
            ("the maker's manual",),
        ),
        subjects.fed_or_on_vehicle,
    ),
    (
        Caution(
            "caution.starter_battery", (), "A vehicle's battery must start its engine",
            "What stays on drains it overnight; what draws much overheats the alternator.",
            (
                "Switch by the ignition, or by a charger that knows when the engine runs.",
                "Draw no more than about half of the alternator's rating for long.",
                "A hybrid's or electric car's 12 V side gives 1 to 1.5 kW in ready mode: count on "
                "half of that, and ask its maker.",
            ),
            ("the vehicle's maker or workshop",),
        ),
        subjects.vehicles,
    ),
    (
        Caution(
            "caution.crash", (), "Fix what is heavy against a crash",
            "In a crash a battery of 15 kg strikes like half a tonne.",
            (
                "Strap or bolt it to the frame, its posts covered.",
                "Nothing loose above or beside it.",
            ),
            ("the vehicle's maker or workshop",), True,
        ),
        subjects.heavy,
    ),
    (
        Caution(
            "caution.chassis", (), "Run a return cable of its own",
            "Through the chassis the current goes where nobody measured it: rust, bearings.",
            (
                "Run a minus cable as thick as the plus to inverters, chargers and batteries.",
                "With a grounded chassis minus is last on and first off.",
            ),
            ("the vehicle's maker or workshop",), True,
        ),
        subjects.moving,
    ),
    (
        Caution(
            "caution.chafe", (), "Cables chafe where something moves",
            "Insulation rubbed through on metal is a short circuit, often years later.",
            (
                "Put a grommet in every hole, conduit along edges; fix cables every 30 cm.",
                "Look at them once a year.",
            ),
        ),
        subjects.moving,
    ),
    (
        Caution(
            "caution.warm_converters", (), "What changes volts gets hot",
            "In a closed cupboard converters and inverters shut down, or burn.",
            (
                "Leave air around them; nothing that burns near.",
                "Feel them after an hour at full load: warm is fine, hot is not.",
                "One without a remote switch drains a starter battery.",
            ),
            ("the maker's manual",),
        ),
        subjects.hot,
    ),
    (
        Caution(
            "caution.terminals", (), "Loose terminals burn",
            "At these amps a few milliohms glow.",
            (
                "Tighten with the torque its maker names; check again after a week.",
                "Crimp lugs with the tool made for them; feel each joint after an hour.",
            ),
            ("the maker's manual",),
        ),
        subjects.large,
    ),
    (
        Caution(
            "caution.lifting", (), "Lift it with two",
            "A heavy battery crushes fingers and backs, and one that falls may burn.",
            (
                "Use its handles, lift with two, and clear the way first.",
            ),
        ),
        subjects.lifted,
    ),
    (
        Caution(
            "caution.children", (), "Keep children and animals away",
            "Posts, sockets and small connectors are within their reach.",
            (
                "Cover the posts, close the box, and let nobody play beside it while it charges.",
            ),
        ),
        subjects.lived_with,
    ),
    (
        Caution(
            "caution.first_charge", (), "Stay with it on its first charge",
            "What is wrong with a battery, a charger or a joint shows then.",
            ("Be there, and awake; feel battery, charger, leads and plugs every half hour.",),
        ),
        subjects.held,
    ),
    (
        Caution(
            "caution.alike_batteries", (), "Only alike batteries together",
            "Packs at different charge push a large current through each other; in series the "
            "emptiest is driven below empty.",
            (
                "Same chemistry, volts, capacity and age.",
                "Before they are joined: each full, and within 0.1 V of the others.",
                "Mind the maker's limit on series and parallel.",
            ),
            ("the maker's manual",),
        ),
        subjects.several,
    ),
    (
        Caution(
            "caution.packs_in_series", (), "Packs in series: charge them alike",
            "The emptier one runs dry first and is driven below empty by the others.",
            ("Both full before they are joined; each on its own charger.",),
            ("the maker's manual",),
        ),
        subjects.series_feeding,
    ),
    (
        Caution(
            "caution.warranty", (), "An unapproved source may void the warranty",
            "The station's maker may refuse to repair what was fed by something else.",
            ("Ask its maker, and keep the answer.",),
            ("the maker's manual",),
        ),
        subjects.fed_stations,
    ),
    (
        Caution(
            "caution.local_code", (), "What is fixed may be inspected",
            "Fixed wiring, mains, and what stays in a vehicle fall under rules that differ from "
            "place to place. Nothing here says that a design meets them.",
            (
                "Ask what applies where you are, before you buy.",
                "Have fixed and mains wiring done or checked by a licensed electrician.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.fixed,
    ),
)  # fmt: skip
