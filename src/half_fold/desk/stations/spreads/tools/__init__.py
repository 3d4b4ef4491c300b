"""Tools over the bench of spreads: what the hand does with what lies there."""
