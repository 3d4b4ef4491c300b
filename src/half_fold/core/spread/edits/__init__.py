"""Edits of things on a spread, each from one job to the next."""
