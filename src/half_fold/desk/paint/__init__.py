"""The display list on the screen and in proofs."""
