"""Ways to grow a station, side by side on the user's own design."""

from graveljar.core.planning.station_growth.compare import routes_of
from graveljar.core.planning.station_growth.route import Route, RouteFinding, RoutePart
from graveljar.core.planning.station_growth.ways import RoutesAsk

__all__ = ["Route", "RouteFinding", "RoutePart", "RoutesAsk", "routes_of"]
