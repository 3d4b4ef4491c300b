"""Texts as they come in and go out: files to paragraphs with roles and back, words found, spelled and quoted."""
