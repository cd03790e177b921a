"""Which cautions apply to a design, and which of them somebody has read."""

from dataclasses import dataclass, replace

from graveljar.core.cautions.caution import CODES, Caution
from graveljar.core.cautions.cautions import CAUTIONS
from graveljar.core.context import Context


@dataclass(frozen=True)
class CautionRow:
    """A caution that applies. `names` of what it is tied to.

    `acknowledged` in this revision of the design, for all it is tied to; `since` names what came
    after somebody last read it.
    """

    caution: Caution
    names: tuple[str, ...]
    acknowledged: bool
    since: tuple[str, ...]


def warn(context: Context) -> tuple[CautionRow, ...]:
    """Cautions that apply, in order of danger."""
    network = context.network
    known = {x.code: set(x.subjects) for x in network.design.acknowledged}
    codes = CODES[network.design.setting.place]
    found = []
    for caution, tied_to in CAUTIONS:
        subjects = tuple(dict.fromkeys(tied_to(context)))
        if not subjects:
            continue
        names = {subject: network.names[subject] for subject in subjects}
        read = known.get(caution.code)
        new = () if read is None else tuple(names[x] for x in subjects if x not in read)
        found.append(
            CautionRow(
                replace(caution, subjects=subjects, codes=codes if caution.under_code else ()),
                tuple(names.values()),
                acknowledged=read is not None and not new,
                since=new,
            )
        )
    return tuple(found)
