"""The document records, surgery on them, and their history."""
