"""What can go wrong with kept designs; branches of the tree in `core/errors.py`."""

from graveljar.core.errors import GravelJarError
from graveljar.store.records import Stored


class DesignNotFound(GravelJarError):
    """No design has this id, or it was deleted."""

    code = "design_not_found"
    title = "There is no such design"


class StaleRevision(GravelJarError):
    """Somebody saved in between; carries what stands there now."""

    code = "stale_revision"
    title = "The design was changed elsewhere"

    def __init__(self, current: Stored) -> None:
        super().__init__("The design was changed in another tab or window since it was read here.")
        self.current = current


class PartNotFound(GravelJarError):
    """No part has this id, or it was taken off the shelf."""

    code = "part_not_found"
    title = "There is no such part"

    def __init__(self) -> None:
        super().__init__("The part is not on the shelf, or was taken off it.")


class StalePart(GravelJarError):
    """Somebody changed the part in between."""

    code = "stale_part"
    title = "The part was changed elsewhere"

    def __init__(self, name: str) -> None:
        super().__init__(f"{name} was changed in another tab or window since it was read here.")


class ReadingNotFound(GravelJarError):
    """No reading has this id, or it was taken away."""

    code = "reading_not_found"
    title = "There is no such reading"

    def __init__(self) -> None:
        super().__init__("The reading is not in the bench book, or was removed.")


class LogNotFound(GravelJarError):
    """No log has this id, or it was taken away."""

    code = "log_not_found"
    title = "There is no such log"

    def __init__(self) -> None:
        super().__init__("The log is not in the bench book, or was removed.")
