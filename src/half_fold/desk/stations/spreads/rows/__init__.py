"""The working of what is chosen on a spread."""
