"""Colours, type and spacing in one place."""
