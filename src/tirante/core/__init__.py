"""The rules of the job: pure functions over frozen data; no web, files, clock or global state."""
