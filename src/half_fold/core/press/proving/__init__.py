"""The press file read again as a stranger reads it, and held against what was to be written."""
