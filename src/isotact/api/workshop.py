"""The profile workshop: check, keep, export and bring in device profiles and cable types of one's own."""

from collections.abc import Container
from typing import Annotated, Any

from fastapi import APIRouter, Path, Request
from fastapi.responses import PlainTextResponse, Response
from pydantic import BaseModel, Field

from isotact.api.context import TheCatalogue, TheStore, looked_up
from isotact.api.errors import MISSING, RESPONSES
from isotact.api.rigs import Body
from isotact.catalogue import Catalogue
from isotact.catalogue.checking import Entry
from isotact.catalogue.packs import as_yaml, read_pack
from isotact.core.model import Profile, RefusedError, Rig
from isotact.core.model.cable import CableType
from isotact.core.model.problems import IsotactError, NotFoundError, Problem
from isotact.core.model.rig import Device
from isotact.core.model.vocabulary import Word, Words, words_used
from isotact.core.model.words import ID_LENGTH, ID_PATTERN
from isotact.store import Store

router = APIRouter(prefix="/api/workshop", tags=["workshop"], responses=RESPONSES)
ProfileId = Annotated[str, Path(pattern=ID_PATTERN, max_length=ID_LENGTH)]


class Text(Body):
    """One document or a pack of several, as text."""

    text: Annotated[str, Field(max_length=1_000_000)]
    file: Annotated[str, Field(max_length=200)] = ""


class Checked(BaseModel):
    """What a text holds, and everything that is wrong with it."""

    profile: Profile | None
    text: str = ""
    """The same as a YAML document."""
    problems: list[Problem]


class Kept(BaseModel):
    """What was kept, by id."""

    profiles: list[str]
    cables: list[str]
    words: list[str]


class Trial(Body):
    """A profile to try in a rig, in the place of one of its devices or beside them."""

    text: Annotated[str, Field(max_length=1_000_000)]
    rig: Annotated[str, Field(pattern=ID_PATTERN, max_length=ID_LENGTH)]
    instead_of: Annotated[str, Field(pattern=ID_PATTERN, max_length=ID_LENGTH)] | None = None


class TrialAnswer(BaseModel):
    """What the rig promises with the new device in it, against what it promised before."""

    document: Rig
    kept: list[str]
    kept_before: list[str]
    promised: int
    says: str


@router.get("/profiles/{profile_id}", responses=MISSING)
def one_profile(profile_id: ProfileId, catalogue: TheCatalogue) -> Profile:
    """A profile, whole."""
    if profile_id not in catalogue.profiles:
        raise NotFoundError("profile", profile_id, catalogue.profiles)
    return catalogue.profiles[profile_id]


_AS_TEXT: dict[int | str, dict[str, Any]] = {200: {"content": {"text/plain": {"schema": {"type": "string"}}}}}


@router.get("/profiles/{profile_id}/document", responses={**MISSING, **_AS_TEXT}, response_class=Response)
def profile_text(profile_id: ProfileId, catalogue: TheCatalogue) -> Response:
    """A profile as a YAML document."""
    return PlainTextResponse(as_yaml(one_profile(profile_id, catalogue)))


@router.post("/check")
def check(body: Text) -> Checked:
    """Check one profile while it is being written."""
    try:
        found = read_pack(body.text, body.file)
    except RefusedError as error:
        return Checked(profile=None, problems=error.problems)
    if len(found) != 1 or not isinstance(found[0], Profile):
        message = f"found {len(found)} documents; the workshop works at one profile at a time."
        return Checked(profile=None, problems=[Problem(code="not-one", path="", message=message)])
    return Checked(profile=found[0], text=as_yaml(found[0]), problems=[])


@router.post("/keep", status_code=201)
def keep(body: Text, request: Request, store: TheStore) -> Kept:
    """Keep the documents of a pack as one's own, all of them or none."""
    own = _own(request)
    found = read_pack(body.text, body.file)
    shipped = own.shipped
    clash = [one.id for one in found if one.id in shipped.profiles or one.id in shipped.cables]
    if clash:
        message = f"found the id '{clash[0]}', which belongs to what ships with the application."
        raise RefusedError([Problem(code="id-taken", path="id", message=message, hint="Give yours another id.")])
    catalogue: Catalogue = request.app.state.catalogue
    for one in found:
        _same_kind(one, catalogue)
        if isinstance(one, Words) and one.id in catalogue.words:
            kept = {(table, key) for table, key, _ in one.declared()}
            _still_used(catalogue.words[one.id], kept, catalogue, store)
    own.keep(found)
    request.app.state.catalogue = own.catalogue()
    return Kept(
        profiles=[one.id for one in found if isinstance(one, Profile)],
        cables=[one.id for one in found if isinstance(one, CableType)],
        words=[one.id for one in found if isinstance(one, Words)],
    )


@router.delete("/words/{words_id}", status_code=204, responses=MISSING)
def drop_words(words_id: ProfileId, request: Request, store: TheStore, catalogue: TheCatalogue) -> None:
    """Take words of one's own off again. Refused while a profile, a cable type or a rig uses one of them."""
    own = _own(request)
    if words_id not in catalogue.words:
        raise NotFoundError("words of your own", words_id, catalogue.words)
    _still_used(catalogue.words[words_id], set(), catalogue, store)
    own.drop(words_id)
    request.app.state.catalogue = own.catalogue()


@router.delete("/profiles/{profile_id}", status_code=204, responses=MISSING)
def drop(profile_id: ProfileId, request: Request, store: TheStore) -> None:
    """Take one of one's own off again. Refused while a rig uses it."""
    own = _own(request)
    if profile_id not in own.ids():
        raise NotFoundError("profile of your own", profile_id, own.ids())
    users = [one.document.name for one in store.rigs() if any(d.profile == profile_id for d in one.document.devices)]
    if users:
        message = f"found it in use in {', '.join(users)}."
        hint = "Take it out of these rigs first."
        raise RefusedError([Problem(code="in-use", path="id", message=message, hint=hint)])
    own.drop(profile_id)
    request.app.state.catalogue = own.catalogue()


@router.post("/try", responses=MISSING)
def try_it(body: Trial, store: TheStore, catalogue: TheCatalogue) -> TrialAnswer:
    """Plan a rig with a profile that is not kept yet. Nothing is saved."""
    from isotact.core.planning import plan_only

    found = read_pack(body.text)
    profile = found[0]
    if not isinstance(profile, Profile):
        raise RefusedError([Problem(code="not-a-profile", path="", message="found no device in it; try a device.")])
    before = store.rig(body.rig).document
    wider = Catalogue({**catalogue.profiles, profile.id: profile}, catalogue.cables)
    after = _placed(before, profile, body.instead_of)
    try:
        rig = looked_up(wider, after)
    except RefusedError as error:
        raise RefusedError(
            [
                one.model_copy(update={"hint": "The promises name surfaces that this device lacks."})
                for one in error.problems
            ]
        ) from error
    made, old = plan_only(rig), plan_only(looked_up(catalogue, before))
    used = any(rig[feed.device].profile.id == profile.id for feed in made.feeds)
    says = f"{profile.name} is {'in use' if used else 'in the rig, and nothing promised needs it'}."
    return TrialAnswer(
        document=after, kept=list(made.kept), kept_before=list(old.kept), promised=len(after.promises), says=says
    )


def _same_kind(one: Entry, catalogue: Catalogue) -> None:
    shelves: dict[str, Container[str]] = {
        "a profile": catalogue.profiles,
        "a cable type": catalogue.cables,
        "words": catalogue.words,
    }
    mine = "a profile" if isinstance(one, Profile) else "words" if isinstance(one, Words) else "a cable type"
    other = next((name for name, shelf in shelves.items() if name != mine and one.id in shelf), None)
    if other:
        message = f"found the id '{one.id}', which belongs to {other} of yours."
        raise RefusedError([Problem(code="id-taken", path="id", message=message, hint="Give this one another id.")])


def _still_used(words: Words, kept: set[Word], catalogue: Catalogue, store: Store) -> None:
    """Refuse to let words go that something names: it could not be read any more."""
    beside = [other for other in catalogue.words.values() if other.id != words.id]
    known = kept | {(table, key) for other in beside for table, key, _ in other.declared()}
    gone = {(table, key): what.name for table, key, what in words.declared() if (table, key) not in known}
    users = {(table, key): store.rigs_that_ask_for(key) if table == "functions" else [] for table, key in gone}
    entries: list[Profile | CableType] = [*catalogue.profiles.values(), *catalogue.cables.values()]
    for entry in entries:
        for word in words_used(entry) & gone.keys():
            users[word].append(entry.name)
    problems = [
        Problem(
            code="in-use",
            path=f"{table}.{key}",
            message=f"found '{gone[table, key]}' in use in {', '.join(names)}.",
            hint="Take it out of these first; a rig's history counts too.",
        )
        for (table, key), names in users.items()
        if names
    ]
    if problems:
        raise RefusedError(problems)


def _placed(rig: Rig, profile: Profile, instead_of: str | None) -> Rig:
    if instead_of is not None and all(device.id != instead_of for device in rig.devices):
        raise NotFoundError("device in this rig", instead_of, [device.id for device in rig.devices])
    if instead_of is None:
        key = profile.id if all(device.id != profile.id for device in rig.devices) else f"{profile.id[:58]}-tried"
        return rig.model_copy(update={"devices": [*rig.devices, Device(id=key, profile=profile.id)]})
    devices = [
        Device(id=device.id, profile=profile.id, name=device.name, tag=device.tag)
        if device.id == instead_of
        else device
        for device in rig.devices
    ]
    return rig.model_copy(update={"devices": devices})


def _own(request: Request) -> Any:
    own = request.app.state.own
    if own is None:
        raise IsotactError("This server keeps no profiles of your own: it was started without a data folder.")
    return own
