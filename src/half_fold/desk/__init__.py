"""The Qt application. It shows and asks; it computes nothing."""
