"""Small widgets of our own."""
