"""The press PDF: pages and cover from the display list, to the letter of PDF/X-4."""
