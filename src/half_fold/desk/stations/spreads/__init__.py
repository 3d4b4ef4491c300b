"""Spreads: the heart. Fields are claimed, blocks reach from stop to stop, stories and pictures are put there."""

from half_fold.desk.stations.spreads.station import SpreadsStation

__all__ = ["SpreadsStation"]
