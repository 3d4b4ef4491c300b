"""The pages of a job: their grids, their order, their goods and inks, and what would go wrong."""
