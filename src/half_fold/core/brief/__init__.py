"""The brief becomes numbers: leaves, bulk, spine and wrap."""
