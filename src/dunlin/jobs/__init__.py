"""Work that takes a while: queued in Huey, done by a worker, followed as rows."""
