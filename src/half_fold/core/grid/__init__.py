"""The page frame: margins, columns, fields, baseline, and the stops an edge may sit on."""
