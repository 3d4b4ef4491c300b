"""The display list: everything that prints, in points, back to front."""
