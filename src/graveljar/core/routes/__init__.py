"""Ways to grow a station, side by side on the user's own design."""

from graveljar.core.routes.compare import routes_of
from graveljar.core.routes.route import Route, RoutePart, Warned
from graveljar.core.routes.ways import RoutesAsk

__all__ = ["Route", "RoutePart", "RoutesAsk", "Warned", "routes_of"]
