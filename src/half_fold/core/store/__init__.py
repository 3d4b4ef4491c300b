"""The job folder: one file, its autosave, its lock, its versions, and the record of what was made."""
