"""Open-circuit volts of one cell against its charge share, 0 (empty) to 1 (full).

LFP: Afshar et al. 2017 less Ecker et al. 2015; below 0.20 a smooth curve through trade
figures. NMC: Chen et al. 2020. Lead-acid: Sulzer et al. 2019 at C/50, bent to pass through the
rested volts that charts name for each kind. At 25 °C, all through PyBaMM 26.10; linear between
the points.
"""

from typing import Final

# (charge share [1], open-circuit volts [V]), rising charge.
Curve = tuple[tuple[float, float], ...]

LFP: Final[Curve] = (
    (0.0, 2.5000),
    (0.01, 2.5708),
    (0.02, 2.6394),
    (0.05, 2.8254),
    (0.1, 3.0294),
    (0.15, 3.1552),
    (0.2, 3.2193),
    (0.25, 3.2323),
    (0.3, 3.2434),
    (0.35, 3.2617),
    (0.4, 3.2702),
    (0.45, 3.2723),
    (0.5, 3.2734),
    (0.55, 3.2744),
    (0.6, 3.2757),
    (0.65, 3.2795),
    (0.7, 3.2956),
    (0.75, 3.3138),
    (0.8, 3.3187),
    (0.85, 3.3201),
    (0.9, 3.3211),
    (0.95, 3.3221),
    (0.98, 3.3241),
    (0.99, 3.3288),
    (1.0, 3.3481),
)

NMC: Final[Curve] = (
    (0.0, 2.5000),
    (0.01, 2.7114),
    (0.02, 2.8625),
    (0.05, 3.1094),
    (0.1, 3.2959),
    (0.15, 3.4339),
    (0.2, 3.4852),
    (0.25, 3.5286),
    (0.3, 3.5814),
    (0.35, 3.6290),
    (0.4, 3.6670),
    (0.45, 3.7054),
    (0.5, 3.7509),
    (0.55, 3.7983),
    (0.6, 3.8406),
    (0.65, 3.8896),
    (0.7, 3.9479),
    (0.75, 3.9943),
    (0.8, 4.0421),
    (0.85, 4.0809),
    (0.9, 4.0967),
    (0.95, 4.1236),
    (0.98, 4.1645),
    (0.99, 4.1817),
    (1.0, 4.2000),
)

LEAD_ACID: Final[Curve] = (
    (0.0, 1.9629),
    (0.01, 1.9653),
    (0.02, 1.9677),
    (0.05, 1.9748),
    (0.1, 1.9863),
    (0.15, 1.9974),
    (0.2, 2.0082),
    (0.25, 2.0188),
    (0.3, 2.0292),
    (0.35, 2.0394),
    (0.4, 2.0496),
    (0.45, 2.0595),
    (0.5, 2.0694),
    (0.55, 2.0793),
    (0.6, 2.0890),
    (0.65, 2.0987),
    (0.7, 2.1083),
    (0.75, 2.1178),
    (0.8, 2.1274),
    (0.85, 2.1368),
    (0.9, 2.1463),
    (0.95, 2.1557),
    (0.98, 2.1613),
    (0.99, 2.1632),
    (1.0, 2.1651),
)


def _through(empty_v: float, half_v: float, full_v: float) -> Curve:
    """The lead-acid curve, bent to pass through the rested volts of a 12 V battery. [V]"""
    shape = dict(LEAD_ACID)
    names = ((0.0, empty_v / 6), (0.5, half_v / 6), (1.0, full_v / 6))
    bent = []
    for share, volts in LEAD_ACID:
        (low, low_v), (high, high_v) = names[:2] if share <= 0.5 else names[1:]
        part = (volts - shape[low]) / (shape[high] - shape[low])
        bent.append((share, low_v + part * (high_v - low_v)))
    return tuple(bent)


# Rested at empty, half and full, six cells; common charts, quoted from memory.
FLOODED: Final[Curve] = _through(11.7, 12.2, 12.7)
AGM: Final[Curve] = _through(11.8, 12.35, 12.9)
