"""What is made for eyes and for the printer, and proved."""
