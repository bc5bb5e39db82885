"""The server as a process, with a worker beside it."""

import signal
import sys

import uvicorn

from dunlin.api import create_app
from dunlin.api.services import open_services
from dunlin.demo_projects import load_demo
from dunlin.jobs.worker import worker_beside
from dunlin.settings import Settings

__all__ = ["serve"]


def serve(settings: Settings, *, host: str, port: int, demo: bool) -> None:
    """Serves until it is told to end; the worker is started again whenever it dies."""
    services = open_services(settings)
    if demo:
        load_demo(services)
    services.engine.dispose()
    services.memory.close()
    if host not in settings.allowed_hosts:
        settings = settings.model_copy(update={"allowed_hosts": (*settings.allowed_hosts, host)})
    # uvicorn hands a signal on after it has shut down; the worker is to be ended before that ends us.
    signal.signal(signal.SIGTERM, lambda number, frame: sys.exit(0))
    with worker_beside(settings):
        print(f"Dunlin is at http://{host}:{port}", flush=True)
        uvicorn.run(
            create_app(settings),
            host=host,
            port=port,
            log_level="warning",
            timeout_graceful_shutdown=2,
        )
