"""The type sheet: its roles and what can be set of them."""
