"""The Brief station."""

from half_fold.desk.stations.brief.station import BriefStation

__all__ = ["BriefStation"]
