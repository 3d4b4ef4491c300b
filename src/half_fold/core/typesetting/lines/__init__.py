"""Paragraphs to lines: shaped, hyphenated, broken."""
