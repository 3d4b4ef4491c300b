"""What lies apart from the pages: the sides of the cover and the faces of bound-in cards, as spreads of their own."""
