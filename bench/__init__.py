"""What docs/performance.md says, measured: `make bench`."""
