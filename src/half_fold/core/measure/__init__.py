"""Lengths as typed, arithmetic entry, and numbers that show their working."""
