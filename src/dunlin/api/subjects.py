"""What the routes of every subject have in common."""

from typing import Any

from fastapi import APIRouter
from fastapi.routing import APIRoute

from dunlin.api.bodies import BoundedRoute
from dunlin.api.wire import Problem

__all__ = ["subject_router"]


def subject_router(tag: str, *refused: int) -> APIRouter:
    """A router for the routes about one subject, whose paths begin after `/api`.

    Whatever goes wrong has one shape; a subject says with which status it refuses for reasons of its own. All of it is
    said here, and nothing of it where an application takes the routes: FastAPI would build each of them anew for that,
    which takes a second of every start.

    :param refused: HTTP status codes
    """
    problems: dict[int | str, dict[str, Any]] = {
        "default": {"model": Problem, "description": "What was wrong"}
    }
    problems |= {status: {"model": Problem} for status in refused}
    return APIRouter(
        prefix="/api",
        route_class=BoundedRoute,
        tags=[tag],
        responses=problems,
        generate_unique_id_function=_operation_name,
    )


def _operation_name(route: APIRoute) -> str:
    return route.name
