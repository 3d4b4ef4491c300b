"""Faces that are set with: letters to glyphs, and what stands in where a face has none."""
