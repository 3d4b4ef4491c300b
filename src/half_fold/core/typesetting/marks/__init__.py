"""Set lines as glyphs in their places."""
