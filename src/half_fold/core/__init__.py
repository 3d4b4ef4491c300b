"""Everything Half Fold computes. Nothing in here knows of a window."""
