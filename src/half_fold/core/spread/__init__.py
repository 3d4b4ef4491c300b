"""Blocks on stops become composed spreads."""
