"""Colours of pictures: profiles, treatments, and the inks of the press."""
