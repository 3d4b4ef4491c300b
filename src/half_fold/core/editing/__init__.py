"""The one door that every edit goes through."""
