"""Those of many that nothing else beats in everything: the Pareto set."""

from graveljar.core.planning.search.found import Found


def beats(one: Found, other: Found) -> bool:
    """Whether one is no worse in all that is weighed, and better in something."""
    pairs = list(zip(one.weighed, other.weighed, strict=True))
    return all(a <= b for a, b in pairs) and any(a < b for a, b in pairs)


class ParetoFront:
    """The best so far. Of those alike in everything the first by its key stays."""

    def __init__(self) -> None:
        self.best: list[Found] = []

    def wants(self, new: Found) -> bool:
        """Whether nothing kept beats it or is as good."""
        return not any(
            beats(one, new) or (one.weighed == new.weighed and one.key <= new.key)
            for one in self.best
        )

    def add(self, new: Found) -> list[Found]:
        """Keep one; gives those it takes the place of."""
        gone = [one for one in self.best if beats(new, one) or new.weighed == one.weighed]
        self.best = [one for one in self.best if one not in gone] + [new]
        return gone
