"""Speed, always as a ratio to a general-purpose library measured in the same run."""
