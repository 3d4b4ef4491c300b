"""Faces, shaping, hyphenation, line breaking and threads."""
