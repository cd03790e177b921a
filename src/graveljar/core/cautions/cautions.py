"""Every caution, in order of danger, and what in a design each is tied to. Common practice."""

from typing import Final

from graveljar.core.cautions import subjects
from graveljar.core.cautions.caution import Caution, Subjects

# What hurts at once first, then what hurts slowly, then what is lost.
CAUTIONS: Final[tuple[tuple[Caution, Subjects], ...]] = (
    (
        Caution(
            "caution.mains", (), "Behind the inverter is mains voltage",
            "It is as deadly as a wall socket.",
            (
                "Let a licensed electrician do fixed wiring, earthing, neutral bonding and "
                "residual-current protection.",
                "Use sockets and cables made for mains; no home-made ones.",
                "A cable that is too thin for the breaker of its source needs a breaker of its "
                "own.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.inverters,
    ),
    (
        Caution(
            "caution.touch_volts", (), "These volts must not be touched",
            "Above 60 V direct current (30 V in wet places) touching it is dangerous, and an arc "
            "does not go out.",
            (
                "Cover every bare part; leave no terminal within reach of a hand.",
                "Remove the main fuse before you work on it, and measure that no voltage is "
                "left.",
                "Use fuses, switches and connectors rated for this direct voltage.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.touchable,
    ),
    (
        Caution(
            "caution.earth_faults", (), "An earth-fault switch may not trip behind an inverter",
            "Without a bond between neutral and earth, a residual-current device (RCD, GFCI) "
            "detects no fault, and a touched case stays live. Bonded twice, it trips without a "
            "fault.",
            (
                "Let an electrician decide where neutral and earth are bonded, in one place "
                "only, and test it.",
                "Press its test button with the inverter running.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.inverters,
    ),
    (
        Caution(
            "caution.shore", (), "Never connect shore power and inverter to one circuit",
            "Two sources on one circuit destroy the inverter, or make pins live unexpectedly.",
            (
                "Use a transfer switch that connects only one at a time, fitted by an "
                "electrician.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.with_shore,
    ),
    (
        Caution(
            "caution.back_feed", (), "Never feed a house through a plug",
            "A cable with two plugs has live pins, and it kills people who work on the dead "
            "line, whichever breaker is off.",
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
                "Run the exhaust of a heater outside without leaks; take its air from outside.",
                "Mount a carbon monoxide alarm, and test it.",
            ),
            ("the vehicle's maker or workshop",),
        ),
        subjects.burning,
    ),
    (
        Caution(
            "caution.lithium_fire", (), "A damaged, swollen or wet lithium battery may burn",
            "It burns with poisonous smoke, and can start again after it seems to be out.",
            (
                "Do not use or charge one that was dropped, is swollen or got wet.",
                "Place it where it does not block the way out; mount a smoke alarm.",
                "If it smokes: get out, and call the fire brigade. Plenty of water cools it.",
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
            "caution.panels", (), "Solar panels are live in daylight",
            "Light produces voltage in them, whatever is switched off after them; several in "
            "series sustain an arc.",
            (
                "Cover them, or work at night; measure voltage and polarity before you plug them "
                "in.",
                "In frost their voltage is above the label: the input must accept it.",
            ),
            ("the maker's manual",),
        ),
        subjects.panels,
    ),
    (
        Caution(
            "caution.dc_arc", (), "Direct current sustains an arc",
            "A connector pulled or a switch opened under load draws an arc that does not stop.",
            (
                "Switch the loads off first; pull no connector under load.",
                "Use switches rated for this direct voltage under load.",
            ),
            ("the maker's manual",),
        ),
        subjects.arcs,
    ),
    (
        Caution(
            "caution.cells", (), "Bare lithium cells have no protection",
            "Without protection (a BMS) a cell is overcharged or over-discharged, and burns "
            "later.",
            (
                "Do not use a lithium pack without a BMS.",
                "When you build from cells: a fuse for each cell, alike cells, insulation "
                "between them, and somebody beside you who has done it before.",
            ),
            ("the maker's manual",),
        ),
        subjects.no_bms,
    ),
    (
        Caution(
            "caution.sealed_in_box", (), "Sealed lead-acid batteries need air too",
            "When overcharged, they open their valves and give off hydrogen: a gas-tight box can "
            "burst.",
            (
                "Use a box with openings at top and bottom, with nothing inside that sparks.",
            ),
            ("the maker's manual",),
        ),
        subjects.sealed_in_box,
    ),
    (
        Caution(
            "caution.water", (), "Keep water away",
            "Water in a battery, an inverter or a socket causes a short circuit and makes cases "
            "live.",
            (
                "Mount it above where water collects, under a cover that lets air through.",
                "Use parts rated for the place; check for corrosion twice a year.",
            ),
            ("the maker's manual",),
        ),
        subjects.wet,
    ),
    (
        Caution(
            "caution.hydrogen", (), "Flooded batteries give off hydrogen",
            "While charging they fill a room with a gas that a spark explodes; their acid burns "
            "skin and eyes.",
            (
                "Charge them in a box vented to the outside, never where people live or sleep.",
                "Keep anything that sparks away from above them; have goggles and an eyewash at "
                "hand.",
                "Switch the charger off before you connect or disconnect its clamps.",
            ),
            ("the maker's manual",),
        ),
        subjects.vented,
    ),
    (
        Caution(
            "caution.medical", (), "Somebody's health depends on this",
            "A battery, an inverter, a fuse or a loose plug can fail at night.",
            (
                "Ask the device's maker what supply it needs, and the clinician what happens "
                "without it.",
                "Have a second plan that needs none of this, and try it.",
                "Try a whole night, with heated parts on, before relying on it.",
            ),
            ("the device maker and a clinician",),
        ),
        subjects.medical,
    ),
    (
        Caution(
            "caution.animals", (), "An animal's life depends on this",
            "Hours without air, warmth or water kill.",
            ("Have a second plan that needs none of this, and an alarm when power fails.",),
            ("a veterinarian or breeder",),
        ),
        subjects.animals,
    ),
    (
        Caution(
            "caution.frost", (), "Do not charge lithium batteries below freezing",
            "Charging below 0 °C damages the cells for good, and they may fail dangerously "
            "later.",
            (
                "Use a battery with a low-temperature cut-off or a heater, or wait until it is "
                "warm.",
                "Measure at the battery: in the morning it is colder than the air.",
            ),
            ("the maker's manual",),
        ),
        subjects.lithium_in_cold,
    ),
    (
        Caution(
            "caution.over_voltage", (), "Too high a voltage destroys an input immediately",
            "A full battery is above its nominal voltage: “48 V” is up to 58.8 V.",
            (
                "Measure the full source without a load before you plug it in.",
                "Measure polarity at the plug too: centre and outer, plus and minus.",
            ),
            ("the maker's manual",),
        ),
        subjects.fed_or_on_vehicle,
    ),
    (
        Caution(
            "caution.starter_battery", (), "A vehicle's battery must start its engine",
            "Devices that stay on empty it overnight; high currents overheat the alternator.",
            (
                "Switch them by the ignition, or use a charger that detects the running engine.",
                "Draw no more than about half of the alternator's rating for long.",
                "The 12 V side of a hybrid or electric car supplies 1 to 1.5 kW in ready mode: "
                "count on half of that, and ask its maker.",
            ),
            ("the vehicle's maker or workshop",),
        ),
        subjects.vehicles,
    ),
    (
        Caution(
            "caution.crash", (), "Secure heavy parts against a crash",
            "In a crash a 15 kg battery strikes like half a tonne.",
            (
                "Strap or bolt it to the frame, its posts covered.",
                "Leave nothing loose above or beside it.",
            ),
            ("the vehicle's maker or workshop",), True,
        ),
        subjects.heavy,
    ),
    (
        Caution(
            "caution.chassis", (), "Use a separate return cable",
            "Through the chassis the current flows where nobody measured it: through rust and "
            "bearings.",
            (
                "Run a negative cable as thick as the positive one to inverters, chargers and "
                "batteries.",
                "With a grounded chassis, connect negative last and disconnect it first.",
            ),
            ("the vehicle's maker or workshop",), True,
        ),
        subjects.moving,
    ),
    (
        Caution(
            "caution.chafe", (), "Cables chafe where something moves",
            "Insulation that rubs through on metal causes a short circuit, often years later.",
            (
                "Put a grommet in every hole, conduit along edges; fix cables every 30 cm.",
                "Inspect them once a year.",
            ),
        ),
        subjects.moving,
    ),
    (
        Caution(
            "caution.warm_converters", (), "Converters and inverters get hot",
            "In a closed cupboard they shut down, or burn.",
            (
                "Leave air around them; keep anything that burns away.",
                "Check their heat with the back of your hand after an hour at full load: warm is "
                "fine, hot is not.",
                "A converter without a remote switch empties a starter battery.",
            ),
            ("the maker's manual",),
        ),
        subjects.hot,
    ),
    (
        Caution(
            "caution.terminals", (), "Loose terminals burn",
            "At these currents a few milliohms make a terminal glow.",
            (
                "Tighten to the torque that the maker states; check again after a week.",
                "Crimp lugs with the proper tool; check the heat of each joint, on its "
                "insulation, after an hour.",
            ),
            ("the maker's manual",),
        ),
        subjects.large,
    ),
    (
        Caution(
            "caution.lifting", (), "Lift it with two people",
            "A heavy battery crushes fingers and backs, and one that falls may burn.",
            (
                "Use its handles, lift it with two people, and clear the way first.",
            ),
        ),
        subjects.lifted,
    ),
    (
        Caution(
            "caution.children", (), "Keep children and animals away",
            "Posts, sockets and small connectors are within their reach.",
            (
                "Cover the posts, close the box, and let nobody play near it while it charges.",
            ),
        ),
        subjects.lived_with,
    ),
    (
        Caution(
            "caution.first_charge", (), "Stay with it on its first charge",
            "Faults of a battery, a charger or a joint show then.",
            ((
                "Stay there, awake; check the heat of battery, charger, cables and plugs every "
                "half hour."
            ),),
        ),
        subjects.held,
    ),
    (
        Caution(
            "caution.alike_batteries", (), "Connect only alike batteries",
            "Batteries at different charge drive a large current through each other; in series "
            "the emptiest is over-discharged.",
            (
                "Same chemistry, voltage, capacity and age.",
                "Before you connect them: charge each full, within 0.1 V of the others.",
                "Keep to the maker's limits for series and parallel.",
            ),
            ("the maker's manual",),
        ),
        subjects.several,
    ),
    (
        Caution(
            "caution.packs_in_series", (), "Batteries in series: charge them equally",
            "The emptier one is over-discharged by the others.",
            ("Charge each full on its own charger before you connect them.",),
            ("the maker's manual",),
        ),
        subjects.series_feeding,
    ),
    (
        Caution(
            "caution.warranty", (), "An unapproved source may void the warranty",
            "The maker may refuse to repair a station that was fed from another source.",
            ("Ask its maker, and keep the answer.",),
            ("the maker's manual",),
        ),
        subjects.fed_stations,
    ),
    (
        Caution(
            "caution.local_code", (), "Fixed installations may be inspected",
            "Fixed wiring, mains, and equipment that stays in a vehicle fall under rules that "
            "differ from place to place. Nothing here says that a design meets them.",
            (
                "Ask which rules apply where you are before you buy.",
                "Have fixed and mains wiring done or checked by a licensed electrician.",
            ),
            ("a licensed electrician",), True,
        ),
        subjects.fixed,
    ),
)  # fmt: skip
