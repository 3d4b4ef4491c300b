"""The Cover station."""

from half_fold.desk.stations.cover.station import CoverStation

__all__ = ["CoverStation"]
