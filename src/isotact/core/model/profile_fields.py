"""A profile: what a kind of device is. One YAML file each; `docs/profile-format.md` explains every field."""

from typing import Literal

from pydantic import Field

from isotact.core.model.base import Document
from isotact.core.model.behaviour import (
    Accepts,
    Card,
    Caution,
    Charger,
    Emits,
    Indicator,
    Lens,
    Makes,
    Modes,
    Motor,
    Mount,
    Passes,
    Power,
    Relays,
    Setting,
    Shows,
    Surface,
    Wake,
)
from isotact.core.model.gimbals import Carrier, Pole
from isotact.core.model.measures import Position
from isotact.core.model.memo import once
from isotact.core.model.ports import EndpointRef, Port, Radio
from isotact.core.model.roles import Role
from isotact.core.model.small_parts import Fixing
from isotact.core.model.units import Grams, Millimetres
from isotact.core.model.vocabulary import DeviceKind, FunctionId
from isotact.core.model.words import Id, Name, Stage, Text, Version


class ProfileFields(Document):
    """The fields of a profile, not yet checked for whether its references lead somewhere."""

    format: Literal["isotact/profile"]
    version: Literal[1]
    id: Id
    name: Name
    kind: DeviceKind
    summary: Text
    mass_g: Grams
    size_mm: tuple[Millimetres, Millimetres, Millimetres] | None = Field(
        default=None, description="width, height and depth, the front towards you"
    )
    shape: Literal["box", "tube"] = Field(default="box", description="a tube is round from front to back, as a lens is")
    centre: Position | None = Field(
        default=None, description="where its weight sits, from the middle of what it is mounted by"
    )
    stage: Stage
    firmware: Version | None = Field(default=None, description="the newest that this profile was written for")
    licences: list[Id] = Field(default=[], description="licences that can be loaded on it")
    ports: list[Port] = []
    radios: list[Radio] = []
    modes: Modes | None = None
    settings: list[Setting] = []
    wake: Wake | None = Field(default=None, description="left out for what is never switched on, such as a lens")
    power: Power | None = None
    charger: Charger | None = Field(default=None, description="what it charges, where it is a charger")
    surfaces: list[Surface] = []
    indicators: list[Indicator] = []
    emits: list[Emits] = []
    accepts: list[Accepts] = []
    relays: list[Relays] = []
    makes: list[Makes] = []
    passes: list[Passes] = []
    shows: list[Shows] = []
    exclusive: list[list[EndpointRef]] = Field(default=[], description="groups of which only one may be used at a time")
    mounts: list[Mount] = []
    fixed_by: list[Fixing] = Field(default=[], description="the small parts that it needs to be fixed, one of each")
    lens: Lens | None = None
    motor: Motor | None = None
    carrier: Carrier | None = None
    pole: Pole | None = Field(default=None, description="what a gimbal sits at the front of, held in the middle")
    keeps_tables: bool = Field(
        default=False, description="the lens tables are kept in it; where nothing on the way keeps them the driver does"
    )
    ballast: bool = Field(default=False, description="weight that goes on only where the gimbal wants more of it")
    card: Card | None = Field(default=None, description="what it records on; left out: it is not known to need one")
    cautions: list[Caution] = []
    care: list[Caution] = Field(default=[], description="steps that are good manners, said at that stage")
    notes: Text | None = None

    @property
    def endpoints(self) -> dict[str, Port | Radio]:
        return once(self, _endpoints)

    def setting(self, key: str) -> Setting:
        return next(setting for setting in self.settings if setting.id == key)

    def surface(self, key: str) -> Surface:
        return next(surface for surface in self.surfaces if surface.id == key)

    def given_at(self, surface: str) -> frozenset[FunctionId]:
        """The functions that are worked from a surface, of the device itself or of what it is joined to."""
        sources: list[tuple[Id | None, list[FunctionId]]] = [(one.surface, one.functions) for one in self.emits]
        sources += [(one.surface, one.functions) for one in self.accepts]
        return frozenset(function for at, functions in sources if at == surface for function in functions)

    def role(self, ref: str, *kinds: str) -> tuple[Port | Radio, Role] | None:
        """The endpoint and role that `ref` names, or None. Unqualified refs must be unambiguous."""
        end_id, _, role_name = ref.partition("/")
        end = self.endpoints.get(end_id)
        if end is None:
            return None
        fits = [
            role
            for role in end.roles
            if (not kinds or role.kind in kinds) and (not role_name or role.name == role_name)
        ]
        return (end, fits[0]) if len(fits) == 1 else None


def _endpoints(profile: ProfileFields) -> dict[str, Port | Radio]:
    ends: list[Port | Radio] = [*profile.ports, *profile.radios]
    return {end.id: end for end in ends}
