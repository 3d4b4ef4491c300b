"""The one family of errors a user can cause."""


class Problem(Exception):
    """Something the user can put right; its message is one plain sentence fit to show."""
