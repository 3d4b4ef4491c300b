"""The Press station."""

from half_fold.desk.stations.press.station import PressStation

__all__ = ["PressStation"]
