"""What would go wrong at the press, found before it does: one rule a function, registered in one place."""
