"""Packing lists as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.files.views import LossView
from dunlin.api.wire import View
from dunlin.core.delivery.model import Delivery, Item
from dunlin.core.messages import Message

__all__ = [
    "DeliveriesView",
    "DeliveryRequest",
    "DeliveryView",
    "HouseListView",
    "ItemStandingView",
    "ItemsRequest",
    "MadeView",
    "MakeRequest",
    "MetView",
    "NamedDelivery",
    "OutOfDate",
    "ProofRequest",
    "SentView",
    "TakeListRequest",
    "TrackStandingView",
    "UseListRequest",
    "UsedView",
]

_Id = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,64}$")]


class NamedDelivery(View):
    id: str
    delivery: Delivery


class HouseListView(View):
    """A packing list of the house."""

    id: str
    name: str
    count: int
    """How many things are on it."""


class DeliveriesView(View):
    """The packing lists of a project, and those of the house that it can take."""

    revision: int
    """The project's, when its lists were last changed."""
    deliveries: list[NamedDelivery]
    lists: list[HouseListView]


class MadeView(View):
    """A file that was made. The time is milliseconds since 1970."""

    name: str
    size_bytes: int
    sha256: str
    made_ms: int


class SentView(View):
    """How a thing was sent to a host of films. The time is milliseconds since 1970; null until all of it is there."""

    connection: str
    page: str
    is_open: bool
    sent_ms: int | None


class OutOfDate(View):
    """Something that is otherwise than when a thing was made."""

    what: str
    track: str | None
    count: int


class ItemStandingView(View):
    """How something on a packing list stands."""

    id: str
    item: Item
    name: str
    missing: Message | None
    """Why it cannot be made; null when it can."""
    losses: list[LossView]
    made: MadeView | None
    changes: list[OutOfDate]
    sent: SentView | None
    is_sent: bool
    """Whether what was made last is where it is to go, if it is to go anywhere."""


class TrackStandingView(View):
    """What is to be known of a track before it goes out."""

    track: str
    errors: int
    drafts: int


class DeliveryView(View):
    """A packing list, with how everything on it stands."""

    id: str
    delivery: Delivery
    revision: int
    """The project's, when the list or what is on it was last changed."""
    items: list[ItemStandingView]
    tracks: list[TrackStandingView]
    """Those of which something is to be known before they go out."""
    being_made: str | None
    """Id of the job that makes it now, or waits to."""


class DeliveryRequest(BaseModel):
    """Makes a packing list this one, or a new one."""

    delivery: Delivery
    base_revision: Annotated[int, Field(ge=0)] | None = None


class ItemsRequest(BaseModel):
    """Makes things on a list these; null takes one off."""

    items: Annotated[dict[_Id, Item | None], Field(min_length=1, max_length=500)]
    base_revision: Annotated[int, Field(ge=0)] | None = None


class MakeRequest(BaseModel):
    """Asks for what is on a list to be made."""

    items: Annotated[list[_Id], Field(max_length=500)] | None = None
    """Ids; null is all that is not left out."""
    anew: bool = False
    """Whether even that is made which would come out the same."""
    author: Annotated[str, Field(max_length=200)] = ""
    """Who makes it, for reports."""


class ProofRequest(BaseModel):
    """Asks for a short passage of a film on a list, to be looked at before the whole."""

    from_ms: Annotated[int, Field(ge=0)] = 0
    seconds: Annotated[int, Field(ge=1, le=600)] = 60


class TakeListRequest(BaseModel):
    """Puts a list of the house into a project."""

    list_id: _Id
    delivery_id: _Id
    """Of the project's list; made by whoever takes it."""


class UseListRequest(BaseModel):
    """Puts a list of the house into projects."""

    projects: Annotated[list[_Id], Field(min_length=1, max_length=500)]
    make: bool = True
    """Whether it is made at once."""
    author: Annotated[str, Field(max_length=200)] = ""


class MetView(View):
    """What became of a list in one of several projects."""

    project_id: str
    delivery_id: str | None
    """Of the list there; null when it could not be taken."""
    problem: Message | None


class UsedView(View):
    projects: list[MetView]
