"""Words that tell who depends on an appliance: a person's health, an animal's life.

Common practice. A suggestion: what somebody says of an appliance goes before it.
"""

import re
from typing import Final, Literal

Depends = Literal["nobody", "a person", "an animal"]

PERSON: Final = re.compile(
    r"\b(?:[cb]i?pap|apap|ventilator|oxygen|concentrator|nebuli[sz]er|dialysis|insulin|"
    r"(?:feeding|infusion|syringe|breast|suction|insulin) pump|medic\w*|cough assist|"
    r"apn(?:o|oe|e)a|heart monitor|stair ?lift|hearing aid)\b",
    re.IGNORECASE,
)
ANIMAL: Final = re.compile(
    r"aquari|terrari|vivari|\bfish\b|\bkoi\b|\bpond\b|reptile|incubat|hatcher|brooder|kennel|"
    r"tank heater|air stone|hen ?house|\bchicks?\b|bee ?hive",
    re.IGNORECASE,
)


def suggested(name: str) -> Depends:
    """Who depends on an appliance, by its name.

    Examples
    --------
    >>> suggested("BiPAP"), suggested("Koi pond pump"), suggested("Air pump for the mattress")
    ('a person', 'an animal', 'nobody')
    """
    if PERSON.search(name):
        return "a person"
    return "an animal" if ANIMAL.search(name) else "nobody"
