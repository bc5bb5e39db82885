"""Who works here: people by their ids, with the names they gave themselves."""

from dunlin.api.authors import Who
from dunlin.api.people.views import NameRequest, PersonView
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import PEOPLE
from dunlin.store.house import HOUSE
from dunlin.store.log import Step

__all__ = ["router"]

router = subject_router("people")


@router.get("/people")
def list_people(here: Here) -> list[PersonView]:
    people, _ = here.log.record(HOUSE, PEOPLE)
    return [PersonView(id=id_, name=entry["name"]) for id_, entry in people.items()]


@router.put("/people/me", status_code=204)
def name_myself(request: NameRequest, here: Here, who: Who) -> None:
    """Says how the person who asks is called. Other windows are told, as of any edit of the house."""
    entry = {"name": request.name} if request.name else None
    people, _ = here.log.record(HOUSE, PEOPLE)
    if people.get(who.person) != entry:
        here.log.edit(HOUSE, [Step(PEOPLE, SetEntries({who.person: entry}))], who)
