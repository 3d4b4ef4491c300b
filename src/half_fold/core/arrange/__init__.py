"""Layouts of pictures searched and ranked, with reasons; whole photo books drafted."""
