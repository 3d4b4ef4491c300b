"""Barcodes and square codes: their digits, their modules, and how they are printed."""
