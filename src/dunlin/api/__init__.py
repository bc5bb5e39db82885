"""The page's way to everything: a router a subject, and one stream of events."""

from dunlin.api.app import create_app

__all__ = ["create_app"]
