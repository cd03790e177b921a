"""Ways to grow a station, side by side on the user's own design."""

from graveljar.core.planning.station_growth.compare import routes_of
from graveljar.core.planning.station_growth.route import Route, RoutePart, Warned
from graveljar.core.planning.station_growth.ways import RoutesAsk

__all__ = ["Route", "RoutePart", "RoutesAsk", "Warned", "routes_of"]
