"""Pictures in their blocks: drawn closer, brought to points, kept clear, and worked on where they lie."""
