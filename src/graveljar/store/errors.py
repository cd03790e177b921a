"""What can go wrong with kept designs; branches of the tree in `core/errors.py`."""

from typing import TYPE_CHECKING

from graveljar.core.errors import GravelJarError

if TYPE_CHECKING:
    from graveljar.store.designs import Stored


class DesignNotFound(GravelJarError):
    """No design has this id, or it was deleted."""

    code = "design_not_found"
    title = "There is no such design"


class StaleRevision(GravelJarError):
    """Somebody saved in between; carries what stands there now."""

    code = "stale_revision"
    title = "The design was changed elsewhere"

    def __init__(self, current: "Stored") -> None:
        super().__init__("The design was changed in another tab or window since it was read here.")
        self.current = current
