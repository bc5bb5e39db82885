"""Short form over the wire: looks, and tracks that are in one."""
