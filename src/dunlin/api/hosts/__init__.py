"""Hosts of films over the wire."""
