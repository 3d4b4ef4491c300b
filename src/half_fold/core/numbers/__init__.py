"""Every worked number of a job under its stable key."""
