"""Pixels: read, reduced, parted, and their alpha."""
