"""The host that ships, and what Dunlin asks of it."""
