"""The running order: how far pages have come, as a table, and by when."""
