"""What works beside the window, and brings what came of it."""
