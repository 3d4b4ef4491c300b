"""The pictures of a job: brought in, told apart, kept small, looked at."""
