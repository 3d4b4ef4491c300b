"""The ink list: inks, fades and looks; what they lay on paper, where they come from, and where they go."""
