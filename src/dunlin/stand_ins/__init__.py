"""Small stand-ins for services outside, which really do what they say, and say that they are stand-ins."""
