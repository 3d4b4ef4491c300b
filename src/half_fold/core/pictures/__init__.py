"""Pictures: brought into the job, placed in their blocks, converted for press."""
