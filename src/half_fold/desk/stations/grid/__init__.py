"""The Grid station."""

from half_fold.desk.stations.grid.station import GridStation

__all__ = ["GridStation"]
