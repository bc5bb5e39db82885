"""What all projects share: the specs that were made or brought in, and the names of who works here.

The house has a log like a project, with an undo of its own. Its things are copied into a project when
they are taken there, so that nothing in a project changes because the house did.
"""

__all__ = ["HOUSE"]

HOUSE = "house"
"""The id under which the house stands among the projects; it has no film, and so is none of them."""
