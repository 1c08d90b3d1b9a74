"""What there is to choose from: profiles, cable types, functions, and profiles that could not be read."""

from threading import Lock

from fastapi import APIRouter
from fastapi.responses import Response
from pydantic import BaseModel

from isotact.api.dependencies import TheCatalogue
from isotact.api.errors import RESPONSES
from isotact.catalogue import Catalogue, shipped
from isotact.core.model.behaviour import Modes, Surface
from isotact.core.model.problems import Problem
from isotact.core.model.profile import Profile
from isotact.core.model.small_parts import SMALL_PARTS
from isotact.core.model.vocabulary import Words, kind_like, vocabulary
from isotact.core.telling import OUTLINES, UNKNOWN, Outline
from isotact.core.telling.shelf_lines import what_matters, what_sets_apart

router = APIRouter(prefix="/api/catalogue", tags=["catalogue"], responses=RESPONSES)


class SurfaceLine(BaseModel):
    """A surface, with the functions that it can give and whether a picture can end on it."""

    id: str
    name: str
    kind: str
    functions: list[str]
    shows: bool


class KnobLine(BaseModel):
    """A mode or a menu setting: where it is, and what it can be, each value under its id."""

    id: str
    name: str
    where: str
    values: dict[str, str]
    factory: str


class ProfileLine(BaseModel):
    """A profile, as much of it as choosing one needs."""

    id: str
    name: str
    kind: str
    kind_name: str
    like: str
    """The kind of ours that it stands for: its own, where that is ours."""
    summary: str
    stage: str
    surfaces: list[SurfaceLine]
    modes: KnobLine | None
    settings: list[KnobLine]
    licences: list[str]
    firmware: str | None
    battery: str | None
    apart: str
    """What tells it from its neighbours, in one line."""
    matters: list[str]
    """What choosing it turns on, a line each: mount, ports, feed, functions."""
    fixed_by: list[str]
    """The small parts that it needs to be fixed, in words."""
    is_own: bool


class CableLine(BaseModel):
    """A cable type, likewise."""

    id: str
    name: str
    family: str
    kind: str
    ends: list[str]
    connectors: list[str]
    """The ids of its ends' connectors, by which they are drawn."""
    length_mm: float
    note: str | None


class CatalogueAnswer(BaseModel):
    """Everything there is to choose from."""

    profiles: list[ProfileLine]
    cables: list[CableLine]
    functions: dict[str, str]
    connectors: dict[str, str]
    kinds: dict[str, str]
    small_parts: dict[str, str]
    """What things are fixed with, by id."""
    spoken: list[str]
    """Every protocol, picture signal and motor bus that some profile names."""
    words: list[Words]
    """Connectors, functions and kinds of one's own."""
    broken: dict[str, list[Problem]]


class Plugs(BaseModel):
    """How connectors look from the front, by id; `unknown` for those of one's own words."""

    outlines: dict[str, Outline]
    unknown: Outline


class _Written:
    """The answer as it was written last: a rental house's shelves are a megabyte, and every page asks for them."""

    def __init__(self) -> None:
        self._of: Catalogue | None = None
        self._text = b""
        self._turn = Lock()

    def of(self, catalogue: Catalogue) -> bytes:
        with self._turn:
            if self._of is not catalogue:
                self._of, self._text = catalogue, _everything(catalogue).model_dump_json().encode()
            return self._text


_written = _Written()


@router.get("", response_model=CatalogueAnswer)
def catalogue(catalogue: TheCatalogue) -> Response:
    """Profiles, cable types, functions and words of one's own by id; broken files with their errors."""
    return Response(_written.of(catalogue), media_type="application/json")


@router.get("/plugs")
def plugs() -> Plugs:
    """Every connector that ships as it looks from the front, in true proportion, with the source of its measures."""
    return Plugs(outlines=dict(OUTLINES), unknown=UNKNOWN)


def _everything(catalogue: Catalogue) -> CatalogueAnswer:
    shipped_ids = shipped().profiles
    profiles = [_profile_line(profile, profile.id not in shipped_ids) for profile in catalogue.profiles.values()]
    cables = [
        CableLine(
            id=cable.id,
            name=cable.name,
            family=cable.family,
            kind=cable.kind,
            ends=[vocabulary().connectors[end.connector].name for end in cable.ends],
            connectors=[end.connector for end in cable.ends],
            length_mm=cable.length_mm,
            note=cable.note,
        )
        for cable in catalogue.cables.values()
    ]
    functions = {key: function.name for key, function in vocabulary().functions.items()}
    ends = [end for profile in catalogue.profiles.values() for end in profile.endpoints.values()]
    spoken = {role.name for end in ends for role in end.roles if role.kind != "power"}
    return CatalogueAnswer(
        profiles=profiles,
        cables=cables,
        functions=functions,
        connectors={key: connector.name for key, connector in vocabulary().connectors.items()},
        kinds={key: kind.name for key, kind in vocabulary().kinds.items()},
        small_parts={key: part.name for key, part in SMALL_PARTS.items()},
        spoken=sorted(spoken),
        words=list(catalogue.words.values()),
        broken=catalogue.broken,
    )


def _profile_line(profile: Profile, is_own: bool) -> ProfileLine:
    battery = profile.power.inner_battery if profile.power else None
    return ProfileLine(
        id=profile.id,
        name=profile.name,
        kind=profile.kind,
        kind_name=vocabulary().kinds[profile.kind].name,
        like=kind_like(profile.kind),
        summary=profile.summary,
        stage=profile.stage,
        surfaces=[_surface_line(profile, surface) for surface in profile.surfaces],
        modes=_modes_line(profile.modes) if profile.modes else None,
        settings=[
            KnobLine(
                id=setting.id,
                name=setting.name,
                where=setting.words,
                values={value.id: value.name for value in setting.values},
                factory=setting.factory,
            )
            for setting in profile.settings
        ],
        licences=profile.licences,
        firmware=profile.firmware,
        battery=f"{battery.name}, {battery.energy_wh:g} Wh" if battery else None,
        apart=what_sets_apart(profile),
        matters=list(what_matters(profile)),
        fixed_by=[fixing.words for fixing in profile.fixed_by],
        is_own=is_own,
    )


def _modes_line(modes: Modes) -> KnobLine:
    values = {value.id: value.name for value in modes.values}
    return KnobLine(id="mode", name="Mode", where=modes.how, values=values, factory=modes.factory)


def _surface_line(profile: Profile, surface: Surface) -> SurfaceLine:
    gives = profile.given_at(surface.id)
    shows = any(show.screen == surface.id for show in profile.shows)
    return SurfaceLine(id=surface.id, name=surface.name, kind=surface.kind, functions=sorted(gives), shows=shows)


ROUTERS = (router,)
