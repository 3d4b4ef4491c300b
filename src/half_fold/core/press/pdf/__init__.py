"""The press file as it is written: marks as operators of ISO 32000, its fonts, pictures and pages."""
