"""The same core without a window: one module a command, with its usage, what it is given and what it does."""
