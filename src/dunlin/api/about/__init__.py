"""Words about a film over the wire."""
