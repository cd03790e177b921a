"""Designs to begin with, from what one has and what stands on its label."""

from graveljar.core.planning.beginnings.begin import begin
from graveljar.core.planning.beginnings.have import Have, Region

__all__ = ["Have", "Region", "begin"]
