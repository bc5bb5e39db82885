"""The job itself: pure computation, data in, data out."""
