"""The Order station."""

from half_fold.desk.stations.order.station import OrderStation

__all__ = ["OrderStation"]
