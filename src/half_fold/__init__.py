"""Half Fold: a working desk for publications with facing pages."""

import gc

__version__ = "0.1.0"

# What a program reads in as it begins, it keeps: to look through all of it for circles again and again meanwhile took a
# twelfth of every start, and of a book's way to its PDF.
gc.set_threshold(300_000, 10, 10)
