"""The cover: its parts, as it is seen, and as a working drawing."""
