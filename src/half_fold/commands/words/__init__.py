"""Stories and other words: brought in, fitted, read."""
