"""What a page costs its main thread, in processor time, so that other work of the machine is not counted."""

import json
from collections.abc import Iterator
from contextlib import closing, contextmanager
from urllib.request import urlopen

import websocket
from selenium.webdriver import Chrome

_CATEGORIES = ["toplevel", "blink.user_timing"]


@contextmanager
def main_thread_tasks(browser: Chrome) -> Iterator[list[float]]:
    """The processor time, in ms, of each task the page's main thread does inside; filled when it ends."""
    tasks: list[float] = []
    address = browser.capabilities["goog:chromeOptions"]["debuggerAddress"]
    with urlopen(f"http://{address}/json/version") as answer:
        socket = json.load(answer)["webSocketDebuggerUrl"]
    with closing(websocket.create_connection(socket, suppress_origin=True)) as devtools:
        _send(devtools, 1, "Tracing.start", traceConfig={"includedCategories": _CATEGORIES})
        browser.execute_script("performance.mark('measured-here')")
        yield tasks
        _send(devtools, 2, "Tracing.end")
        events = _traced(devtools)
    # The mark tells which of the browser's processes draws this page; its main thread has the process's number.
    # A task cut by an end of the trace has no processor time.
    here = next(event["pid"] for event in events if event["name"] == "measured-here")
    tasks += [
        event["tdur"] / 1000
        for event in events
        if event["name"].endswith("::RunTask")
        and event["pid"] == event["tid"] == here
        and "tdur" in event
    ]


def _send(devtools: websocket.WebSocket, number: int, method: str, **params: object) -> None:
    devtools.send(json.dumps({"id": number, "method": method, "params": params}))
    while (answer := json.loads(devtools.recv())).get("id") != number:
        pass
    assert "error" not in answer, answer


def _traced(devtools: websocket.WebSocket) -> list[dict]:
    events: list[dict] = []
    while (message := json.loads(devtools.recv()))["method"] != "Tracing.tracingComplete":
        if message["method"] == "Tracing.dataCollected":
            events += message["params"]["value"]
    return events
