"""Whether words can be read where they stand, and what makes them readable."""
