"""Lines poured into columns."""
