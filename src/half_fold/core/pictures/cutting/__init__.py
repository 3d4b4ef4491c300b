"""Subjects cut out, strays painted away, and lines made upright."""
