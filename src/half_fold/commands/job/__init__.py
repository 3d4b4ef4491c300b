"""A job begun, read and changed as a whole."""
