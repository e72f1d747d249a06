"""What every operation stands on: owned rows, the journal with undo, the write lock, jobs and their worker."""
