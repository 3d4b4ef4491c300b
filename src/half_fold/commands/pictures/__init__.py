"""Pictures: cut out, mended, arranged, drafted as a book."""
