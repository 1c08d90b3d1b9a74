"""Checks that a profile's inner references lead somewhere: every flaw, each with its path."""

from collections import Counter
from collections.abc import Iterable, Iterator

from isotact.core.model.base_role import When
from isotact.core.model.problems import Flaw, Path, nearest
from isotact.core.model.profile_fields import ProfileFields


def whens(profile: ProfileFields) -> Iterator[tuple[Path, When]]:
    """Every `when` in the profile, with the path to it."""
    for field in ("emits", "accepts", "relays", "makes", "passes", "shows"):
        for index, item in enumerate(getattr(profile, field)):
            yield (field, index, "when"), item.when
    for field in ("ports", "radios"):
        for index, end in enumerate(getattr(profile, field)):
            for number, role in enumerate(end.roles):
                yield (field, index, "roles", number, "when"), role.when
    for index, radio in enumerate(profile.radios):
        yield ("radios", index, "when"), radio.when


def profile_flaws(profile: ProfileFields) -> Iterator[Flaw]:
    """Every wrong reference in `profile`, in document order of the sections."""
    yield from _twice(profile)
    yield from _endpoints(profile)
    yield from _surfaces(profile)
    yield from _conditions(profile)
    yield from _defaults(profile)
    yield from _cautions(profile)
    yield from _outlets(profile)


def _outlets(profile: ProfileFields) -> Iterator[Flaw]:
    ports = [port.id for port in profile.ports]
    for port in profile.carrier.outlets if profile.carrier is not None else ():
        yield from _one_of(("carrier", "outlets", port), "port", port, ports)


def _cautions(profile: ProfileFields) -> Iterator[Flaw]:
    modes = [value.id for value in profile.modes.values] if profile.modes else []
    ports = [port.id for port in profile.ports]
    for field in ("cautions", "care"):
        for number, one in enumerate(getattr(profile, field)):
            for key, what, known in (("over", "port", ports), ("mode", "mode", modes)):
                if getattr(one, key) is not None:
                    yield from _one_of((field, number, key), what, getattr(one, key), known)


def _twice(profile: ProfileFields) -> Iterator[Flaw]:
    for field in ("surfaces", "settings", "indicators"):
        yield from _repeats((field,), [item.id for item in getattr(profile, field)])
    ends = [("ports", number, end.id) for number, end in enumerate(profile.ports)]
    ends += [("radios", number, end.id) for number, end in enumerate(profile.radios)]
    counts = Counter(end for *_, end in ends)
    for field, number, end in ends:
        if counts[end] > 1:
            yield (field, number, "id"), f"found '{end}' twice among ports and radios; give each its own id"


def _repeats(path: Path, ids: list[str]) -> Iterator[Flaw]:
    seen: set[str] = set()
    for number, key in enumerate(ids):
        if key in seen:
            yield (*path, number, "id"), f"found '{key}' twice; give each its own id"
        seen.add(key)


_WAYS: tuple[tuple[str, str, tuple[str, ...]], ...] = (
    ("emits", "over", ("control", "bus")),
    ("accepts", "over", ("control", "bus")),
    ("relays", "over", ("control", "bus")),
    ("relays", "to", ("control", "bus")),
    ("makes", "over", ("video",)),
    ("passes", "over", ("video",)),
    ("passes", "to", ("video",)),
    ("shows", "over", ("video",)),
)
_TOUCHED = (("emits", "surface"), ("accepts", "surface"), ("shows", "screen"))


def _endpoints(profile: ProfileFields) -> Iterator[Flaw]:
    for field, key, kinds in _WAYS:
        for number, item in enumerate(getattr(profile, field)):
            if getattr(item, key) is not None:
                yield from _endpoint(profile, (field, number, key), getattr(item, key), kinds)
    for row, group in enumerate(profile.exclusive):
        for number, ref in enumerate(group):
            yield from _endpoint(profile, ("exclusive", row, number), ref, ())


def _surfaces(profile: ProfileFields) -> Iterator[Flaw]:
    for field, key in _TOUCHED:
        for number, item in enumerate(getattr(profile, field)):
            if getattr(item, key) is not None:
                known = [surface.id for surface in profile.surfaces]
                yield from _one_of((field, number, key), "surface", getattr(item, key), known)
    for number, item in enumerate(profile.accepts):
        if item.over is None and item.surface is None:
            yield ("accepts", number), "found neither over nor surface; say by which way it comes in"
    for number, surface in enumerate(profile.surfaces):
        if surface.dark_when_used is not None:
            path = ("surfaces", number, "dark_when_used")
            yield from _one_of(path, "port", surface.dark_when_used, [p.id for p in profile.ports])


def _endpoint(profile: ProfileFields, path: Path, ref: str, kinds: tuple[str, ...]) -> Iterator[Flaw]:
    if profile.role(ref, *kinds):
        return
    end_id, _, role_name = ref.partition("/")
    end = profile.endpoints.get(end_id)
    if end is None:
        yield path, f"found '{end_id}', which is no port or radio here{nearest(end_id, profile.endpoints)}"
        return
    names = [role.name for role in end.roles if not kinds or role.kind in kinds]
    if role_name:
        yield path, f"found '{ref}'; {end_id} has {_list(names) or 'no such role'}{nearest(role_name, names)}"
    else:
        yield (
            path,
            f"found '{ref}', which could be {_list(names) or 'nothing: it has no such role'}; write {end_id}/ROLE",
        )


def _conditions(profile: ProfileFields) -> Iterator[Flaw]:
    modes = [value.id for value in profile.modes.values] if profile.modes else []
    prompts = {prompt.id: prompt for prompt in profile.wake.prompts} if profile.wake else {}
    settings = {setting.id: setting for setting in profile.settings}
    for path, when in whens(profile):
        for number, mode in enumerate(when.mode):
            yield from _one_of((*path, "mode", number), "mode", mode, modes)
        for key in when.settings:
            at = (*path, "settings", key)
            yield from _one_of(at, "setting", key, settings)
            if key in settings:
                for value in when.allowed(key):
                    yield from _one_of(at, f"value of {key}", value, [v.id for v in settings[key].values])
        for key, answer in when.answers.items():
            at = (*path, "answers", key)
            yield from _one_of(at, "prompt", key, prompts)
            if key in prompts:
                yield from _one_of(at, f"answer to {key}", answer, [v.id for v in prompts[key].answers])
        if when.licence is not None:
            yield from _one_of((*path, "licence"), "licence", when.licence, profile.licences)


def _defaults(profile: ProfileFields) -> Iterator[Flaw]:
    if profile.modes:
        yield from _one_of(("modes", "factory"), "mode", profile.modes.factory, [v.id for v in profile.modes.values])
    settings = {setting.id: [value.id for value in setting.values] for setting in profile.settings}
    for number, setting in enumerate(profile.settings):
        yield from _one_of(("settings", number, "factory"), "value", setting.factory, settings[setting.id])
        if setting.takes_effect != "at-once" and profile.wake is None:
            says = f"found {setting.takes_effect} on a device that is never woken; expected at-once, or a wake section"
            yield ("settings", number, "takes_effect"), says
    for row, port in enumerate(profile.ports):
        for number, role in enumerate(port.roles):
            if role.kind == "video" and role.format_setting is not None:
                place: Path = ("ports", row, "roles", number, "format_setting")
                yield from _one_of(place, "setting", role.format_setting, settings)
                for picture in role.formats if role.format_setting in settings else []:
                    yield from _one_of(place, f"value of {role.format_setting}", picture, settings[role.format_setting])
    for number, prompt in enumerate(profile.wake.prompts if profile.wake else []):
        path: Path = ("wake", "prompts", number)
        yield from _one_of((*path, "default"), "answer", prompt.default, [v.id for v in prompt.answers])
        if prompt.joined is not None:
            yield from _one_of((*path, "joined"), "port", prompt.joined, [p.id for p in profile.ports])


def _one_of(path: Path, what: str, key: str, known: Iterable[str]) -> Iterator[Flaw]:
    known = list(known)
    if key not in known:
        yield path, f"found '{key}', which is no {what} of this profile{nearest(key, known)}"


def _list(names: list[str]) -> str:
    return ", ".join(names)
