"""What there is to choose from: profiles, cable types, functions, and profiles that could not be read."""

from fastapi import APIRouter
from pydantic import BaseModel

from isotact.api.context import TheCatalogue
from isotact.core.model.problems import Problem
from isotact.core.model.words import CONNECTORS, FUNCTIONS

router = APIRouter(prefix="/api/catalogue", tags=["catalogue"])


class SurfaceLine(BaseModel):
    """A surface, with the functions that it can give and whether a picture can end on it."""

    id: str
    name: str
    kind: str
    functions: list[str]
    shows: bool


class ProfileLine(BaseModel):
    """A profile, as much of it as choosing one needs."""

    id: str
    name: str
    kind: str
    summary: str
    stage: str
    surfaces: list[SurfaceLine]
    settings: dict[str, str]


class CableLine(BaseModel):
    """A cable type, likewise."""

    id: str
    name: str
    family: str
    kind: str
    ends: list[str]
    length_mm: float
    note: str | None


class CatalogueAnswer(BaseModel):
    """Everything there is to choose from."""

    profiles: list[ProfileLine]
    cables: list[CableLine]
    functions: dict[str, str]
    connectors: dict[str, str]
    spoken: list[str]
    """Every protocol, picture signal and motor bus that some profile names."""
    broken: dict[str, list[Problem]]


@router.get("")
def catalogue(catalogue: TheCatalogue) -> CatalogueAnswer:
    """Profiles, cable types and functions by id; broken files with their errors."""
    profiles = []
    for profile in catalogue.profiles.values():
        surfaces = []
        for surface in profile.surfaces:
            gives = {f for e in profile.emits if e.surface == surface.id for f in e.functions}
            gives |= {f for a in profile.accepts if a.surface == surface.id for f in a.functions}
            shows = any(show.screen == surface.id for show in profile.shows)
            surfaces.append(
                SurfaceLine(id=surface.id, name=surface.name, kind=surface.kind, functions=sorted(gives), shows=shows)
            )
        profiles.append(
            ProfileLine(
                id=profile.id,
                name=profile.name,
                kind=profile.kind,
                summary=profile.summary,
                stage=profile.stage,
                surfaces=surfaces,
                settings={setting.id: setting.name for setting in profile.settings},
            )
        )
    cables = [
        CableLine(
            id=cable.id,
            name=cable.name,
            family=cable.family,
            kind=cable.kind,
            ends=[CONNECTORS[end.connector].name for end in cable.ends],
            length_mm=cable.length_mm,
            note=cable.note,
        )
        for cable in catalogue.cables.values()
    ]
    functions = {key: function.name for key, function in FUNCTIONS.items()}
    ends = [end for profile in catalogue.profiles.values() for end in profile.endpoints.values()]
    spoken = {role.name for end in ends for role in end.roles if role.kind != "power"}
    return CatalogueAnswer(
        profiles=profiles,
        cables=cables,
        functions=functions,
        connectors={key: connector.name for key, connector in CONNECTORS.items()},
        spoken=sorted(spoken),
        broken=catalogue.broken,
    )
