"""Where things lie: the frames of pages, the stops that edges are held by, and what lies beside what."""
