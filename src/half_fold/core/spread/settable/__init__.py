"""What can be set of things on a spread, and what they are called."""
