"""Strandline: a small host of films that ships with Dunlin, a program of its own with its own data, page and API."""

from dunlin.stand_ins.video_host.app import create_host, run_host

__all__ = ["create_host", "run_host"]
