"""Everything of a job that can be set, by its path."""
