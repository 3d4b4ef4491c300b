"""Half Fold: a working desk for publications with facing pages."""

__version__ = "0.1.0"
