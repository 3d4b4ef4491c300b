"""The drawer under the bench: pictures, stories, and what lies on the spread."""
