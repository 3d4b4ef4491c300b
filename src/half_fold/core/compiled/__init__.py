"""Procedures that are compiled once a machine, used by several rooms."""
