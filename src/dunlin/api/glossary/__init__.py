"""Term lists over the wire."""
