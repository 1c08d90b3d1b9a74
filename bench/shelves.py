"""A rental house's shelves: thousands of profiles and hundreds of cable types, made from those that ship."""

from pathlib import Path

from isotact.catalogue import shipped
from isotact.catalogue.packs import as_yaml

PROFILES, CABLES = 2000, 600


def fill(folder: Path, profiles: int = PROFILES, cables: int = CABLES) -> None:
    """Write so many of each into `folder`: like those that ship, each of another weight, draw or length."""
    folder.mkdir(parents=True, exist_ok=True)
    catalogue = shipped()
    kinds, leads = list(catalogue.profiles.values()), list(catalogue.cables.values())
    for number in range(profiles):
        kind = kinds[number % len(kinds)]
        turn = number // len(kinds)
        changed = {"id": f"{kind.id}-h{turn}", "name": f"{kind.name}, house {turn}", "mass_g": kind.mass_g + 3 * turn}
        power = kind.power and kind.power.model_copy(update={"draw_w": round(kind.power.draw_w * (1 + turn / 100), 2)})
        one = kind.model_copy(update={**changed, "power": power})
        (folder / f"{one.id}.yaml").write_text(as_yaml(one), encoding="utf-8")
    for number in range(cables):
        lead = leads[number % len(leads)]
        turn = number // len(leads)
        named = {"id": f"{lead.id}-h{turn}", "name": f"{lead.name}, house {turn}"}
        longer = {**named, "length_mm": lead.length_mm + 50 * turn}
        cable = lead.model_copy(update=longer)
        (folder / f"{cable.id}.yaml").write_text(as_yaml(cable), encoding="utf-8")
