"""Pages from a table of goods: it is read, and each of its rows laid in copies of one pattern."""
