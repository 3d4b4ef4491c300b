"""The stations, in the order of work."""
