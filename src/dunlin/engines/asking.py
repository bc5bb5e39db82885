"""Services over HTTP that whoever runs Dunlin has named: asked once, bounded, and never followed elsewhere."""

from typing import TypeVar

import httpx
from pydantic import BaseModel, ValidationError

from dunlin.core.messages import message
from dunlin.engines.recogniser import EngineError

__all__ = ["ask_service", "service_name"]

_MOST_BYTES = 2 << 20
_SECONDS = httpx.Timeout(60.0, connect=5.0)
_Answer = TypeVar("_Answer", bound=BaseModel)


def service_name(address: str) -> str:
    """What a service is called in messages: its host."""
    return httpx.URL(address).host or address


def ask_service(
    address: str, token: str | None, asked: BaseModel, answer: type[_Answer]
) -> _Answer:
    """What a service answers to a POST of JSON.

    :param token: sent as a bearer token (RFC 6750); it stands in no message
    :raises EngineError: when it is gone, slow, refuses, sends on elsewhere, or answers what makes no sense
    """
    headers = {"Authorization": f"Bearer {token}"} if token else {}
    name, body = service_name(address), bytearray()
    try:
        with (
            httpx.Client(timeout=_SECONDS, follow_redirects=False) as client,
            client.stream("POST", address, headers=headers, json=asked.model_dump()) as response,
        ):
            for chunk in response.iter_bytes():
                body += chunk
                if len(body) > _MOST_BYTES:
                    raise EngineError(message("services.nonsense", service=name))
            if response.status_code != 200:
                status = response.status_code
                raise EngineError(message("services.refused", service=name, status=status))
        return answer.model_validate_json(bytes(body))
    except httpx.TimeoutException:
        raise EngineError(message("services.slow", service=name)) from None
    except httpx.HTTPError:
        raise EngineError(message("services.gone", service=name)) from None
    except ValidationError:
        raise EngineError(message("services.nonsense", service=name)) from None
