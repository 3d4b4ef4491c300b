"""Things set: what a spread is composed of, as marks."""
