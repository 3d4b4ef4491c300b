"""Vector art: out of SVG, as filled outlines."""
