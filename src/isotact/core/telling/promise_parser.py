"""Promises from typed words: what somebody means by "Director sees picture on phone under 100 ms" in this rig."""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from rapidfuzz import fuzz, process

from isotact.core.model.base import Struct
from isotact.core.model.profile import Profile
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.rig import ControlPromise, PicturePromise, Point, PowerPromise, Promise
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import Id, free_id
from isotact.core.telling.phrases import promise_words

PEOPLE = ("Operator", "Focus puller", "Director", "Cinematographer", "Script supervisor", "Gaffer", "Client")
"""Whom a crew promises things to, offered before anybody is named. Common practice, no source."""

EVERYBODY = "Everybody"
"""Whom hours are promised to where nobody is named."""

SUGGESTED = 8
"""So many suggestions fit under the field without scrolling."""

FROM_SHELF = 3
"""So many devices of the shelf are offered: who wants to see more opens it."""

SURE = 0.78
"""So alike must a misspelt word be: one wrong letter in five, so that "pictre" is a picture and "gain" is no "pan"."""

MOST_HOURS, MOST_CHANGES, MOST_MS = 48, 20, 60_000
"""What a promise can hold; more is a slip of the finger."""

_FILLERS = frozenset(
    """
    a an the to from on of at in by with it its is sees see has have gets get needs need wants want can could must may
    controls control does do runs run shown shows watch watches under within below less than max most late
    """.split()  # noqa: SIM905 - a sentence of words reads better than a list of them
)
_LIMIT = re.compile(r"(?:under|within|below|less than|at most|max)?\s*(\d+(?:[.,]\d+)?)\s*ms\b", re.I)
_HOURS = re.compile(r"(\d+(?:[.,]\d+)?)\s*(?:h|hours?)\b", re.I)
_CHANGES = re.compile(r"\bwith\s+(\d{1,2}|an?|one|two|three|four)\s+(?:battery\s+)?changes?\b", re.I)
_NUMBERS = {"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4}
_CLEAN = re.compile(r"\bclean\b", re.I)
_LOOK = re.compile(r"\bwith (?:the |a )?look\b|\blut\b", re.I)


class Suggestion(Struct):
    """What the words could mean: one promise, or several made together."""

    says: str
    promises: tuple[Promise, ...]
    promised: bool = False
    """All of it is promised already."""


class FromShelf(Struct):
    """A device on the shelf that gives what no device of the rig does."""

    profile: Id
    says: str


class Suggestions(Struct):
    """The likeliest meaning first; where there is none, `says` tells what was not understood."""

    who: str
    suggestions: tuple[Suggestion, ...]
    says: str = ""
    take: tuple[FromShelf, ...] = ()
    """What could be taken from the shelf, where no device of the rig gives what was asked for."""


@dataclass(frozen=True)
class _Offer:
    """Something that the rig could be asked for. `words` are what it can be called by, lower case."""

    function: str | None
    at: Point
    words: frozenset[str]
    what: frozenset[str]


@dataclass(frozen=True)
class _Asked:
    """A text taken apart."""

    who: str
    items: tuple[tuple[str, ...], ...]
    within_ms: float | None
    hours: float | None
    look: str
    changes: int


def suggest(rig: ResolvedRig, text: str, who: str = "", shelf: Iterable[Profile] = ()) -> Suggestions:
    """What `text` could promise, to `who` where it names nobody. An empty text: everything not promised yet.

    `shelf`: what could be taken into the rig, where nothing in it gives what is asked for.
    """
    asked = _taken_apart(rig, text, who)
    offers = list(_offers(rig))
    wrong = _out_of_range(asked)
    if wrong:
        return Suggestions(who=asked.who, suggestions=(), says=wrong)
    if asked.hours is not None:
        return Suggestions(who=asked.who, suggestions=(_hours(rig, asked, asked.hours),))
    if len(asked.items) > 1:
        return _several(rig, asked, offers)
    # Without a word everything fits, and comes in the order of the rig.
    words = asked.items[0] if asked.items else ()
    found = _ranked(offers, words, asked.who)
    if not found:
        take = tuple(_from_shelf(rig, words, shelf)) if rig.devices else ()
        return Suggestions(who=asked.who, suggestions=(), says=_nothing(rig, offers, words), take=take)
    ready = [_suggestion(rig, asked, [offer]) for offer in found]
    ready.sort(key=lambda one: one.promised)  # what is promised already comes last
    return Suggestions(who=asked.who, suggestions=tuple(ready[:SUGGESTED]))


def people_of(rig: ResolvedRig) -> tuple[str, ...]:
    """Whom something can be promised to: those who were promised something first."""
    return tuple(dict.fromkeys([*(promise.who for promise in rig.rig.promises), *PEOPLE]))


def _taken_apart(rig: ResolvedRig, text: str, who: str) -> _Asked:
    person, colon, rest = text.partition(":")
    if colon and person.strip():
        named, text = _as_known(rig, person.strip()), rest
    else:
        named, text = _leading_person(rig, text)
    limit, hours = _LIMIT.search(text), _HOURS.search(text)
    look = "clean" if _CLEAN.search(text) else "with" if _LOOK.search(text) else "any"
    often = _CHANGES.search(text)
    changes = (_NUMBERS.get(often[1].lower()) or int(often[1])) if often else 0
    # What was understood is taken out, so that "80 ms" is no word that a device would have to bear.
    for pattern in (_LIMIT, _HOURS, _CHANGES, _CLEAN, _LOOK):
        text = pattern.sub(" ", text)
    items = tuple(
        words
        for part in re.split(r",|;|\band\b|\+", text)
        if (words := tuple(word for word in _words(part) if word not in _FILLERS))
    )
    # Batteries last for all of them or for nobody, whoever was promised something last.
    meant = named or (EVERYBODY if hours else who) or "Operator"
    return _Asked(meant, items, _number(limit), _number(hours), look, changes)


def _as_known(rig: ResolvedRig, person: str) -> str:
    """A person as they are written already; anybody new with a capital."""
    known = {one.lower(): one for one in reversed(people_of(rig))}
    return known.get(person.lower(), person[:1].upper() + person[1:])


def _leading_person(rig: ResolvedRig, text: str) -> tuple[str, str]:
    """A person named at the start, written as they are already, or nobody; and the rest of the text."""
    low = text.strip().lower()
    for person in sorted({*people_of(rig), EVERYBODY}, key=lambda one: (-len(one), one)):
        if re.match(rf"{re.escape(person.lower())}\b(?!['’])", low):
            return person, text.strip()[len(person) :]
    return "", text


def _out_of_range(asked: _Asked) -> str:
    if asked.hours is not None and not 0 < asked.hours <= MOST_HOURS:
        return f"Found {asked.hours:g} h; from above 0 to {MOST_HOURS} h can be promised."
    if asked.changes > MOST_CHANGES:
        return f"Found {asked.changes} battery changes; at most {MOST_CHANGES} can be promised."
    if asked.within_ms is not None and asked.within_ms > MOST_MS:
        return f"Found {asked.within_ms:g} ms; at most {MOST_MS} ms can be promised."
    return ""


def _number(found: re.Match[str] | None) -> float | None:
    return float(found[1].replace(",", ".")) if found else None


def _words(text: str) -> list[str]:
    return re.findall(r"[a-z0-9]+", text.lower().replace("’", "'").replace("'s", ""))


def _offers(rig: ResolvedRig) -> Iterator[_Offer]:
    """Every surface with every function that it gives, and every screen that shows a picture."""
    for placed in rig.devices.values():
        profile = placed.profile
        for surface in profile.surfaces:
            here = {*_words(placed.name), *_words(surface.name), *_words(profile.name)}
            at = Point(device=placed.id, surface=surface.id)
            given = profile.given_at(surface.id)
            for function in vocabulary().functions:
                if function in given:
                    what = frozenset(_words(vocabulary().functions[function].name))
                    yield _Offer(function, at, frozenset(here) | what, what)
            if any(show.screen == surface.id for show in profile.shows):
                what = frozenset(("picture", "image", "video"))
                yield _Offer(None, at, frozenset(here) | what, what)


def _ranked(offers: Iterable[_Offer], words: tuple[str, ...], who: str) -> list[_Offer]:
    """The offers that every word fits: named by function before by place, then by what bears the person's name."""
    own = set(_words(who))
    scored = [
        (score + (0.5 if own & offer.words else 0), offer)
        for offer in offers
        if (score := _score(offer, words)) is not None
    ]
    scored.sort(key=lambda pair: -pair[0])  # stable: equals stay in the order of the rig
    return [offer for _, offer in scored]


def _score(offer: _Offer, words: tuple[str, ...]) -> float | None:
    total = 0.0
    for word in words:
        fit = _fit(word, offer.words)
        if fit is None:
            return None
        # Named by what is asked for counts more than by where: "focus" is a function before it is a focus wheel.
        total += fit + (1 if _fit(word, offer.what) is not None else 0)
    # Of equals the one with fewer words left over is meant: who says zoom means zoom, no zoom speed.
    return total - (0.01 * len(offer.what - set(words)))


def _fit(word: str, known: frozenset[str]) -> float | None:
    """How well a word fits: whole, as a beginning, misspelt; None: not at all."""
    if word in known:
        return 2
    if any(one.startswith(word) for one in known):
        return 1
    is_near = len(word) > 3 and process.extractOne(word, known, scorer=fuzz.ratio, score_cutoff=100 * SURE)
    return 0.5 if is_near else None


def _several(rig: ResolvedRig, asked: _Asked, offers: list[_Offer]) -> Suggestions:
    """Several at once, all from one device where one gives them all, else each from the closest."""
    ranked = [(words, _ranked(offers, words, asked.who)) for words in asked.items]
    missing = [words for words, found in ranked if not found]
    if missing:
        return Suggestions(who=asked.who, suggestions=(), says=_nothing(rig, offers, missing[0]))
    devices = dict.fromkeys(offer.at.device for offer in ranked[0][1])
    ready = []
    for device in devices:
        mine = [next((one for one in found if one.at.device == device), None) for _, found in ranked]
        chosen = [one for one in mine if one is not None]
        if len(chosen) == len(ranked):
            ready.append(_suggestion(rig, asked, chosen))
    if not ready:
        ready.append(_suggestion(rig, asked, [found[0] for _, found in ranked]))
    return Suggestions(who=asked.who, suggestions=tuple(ready[:SUGGESTED]))


def _suggestion(rig: ResolvedRig, asked: _Asked, offers: list[_Offer]) -> Suggestion:
    taken = {promise.id for promise in rig.rig.promises}
    made: list[Promise] = []
    for offer in offers:
        promise = _promise(asked, offer, taken)
        taken.add(promise.id)
        made.append(promise)
    says = "; ".join(f"{promise_words(rig, promise)}{promise.limits}" for promise in made)
    here = {_same(promise) for promise in rig.rig.promises}
    return Suggestion(says=says, promises=tuple(made), promised=all(_same(promise) in here for promise in made))


def _promise(asked: _Asked, offer: _Offer, taken: set[str]) -> ControlPromise | PicturePromise:
    if offer.function is None:
        key = free_id("picture", taken)
        look = {"clean": "clean", "with": "with"}.get(asked.look, "any")
        return PicturePromise.model_validate(
            {"id": key, "who": asked.who, "at": offer.at, "within_ms": asked.within_ms, "look": look}
        )
    return ControlPromise(id=free_id(offer.function, taken), who=asked.who, function=offer.function, at=offer.at)


def _hours(rig: ResolvedRig, asked: _Asked, hours: float) -> Suggestion:
    key = free_id("hours", {promise.id for promise in rig.rig.promises})
    promise = PowerPromise(id=key, who=asked.who, hours_h=hours, changes=asked.changes)
    return Suggestion(says=promise_words(rig, promise), promises=(promise,))


def _same(promise: Promise) -> tuple[object, ...]:
    """What makes two promises ask for the same thing, for the same person and within the same limits."""
    return (promise.who, promise.kind, promise.worked, getattr(promise, "at", None), promise.limits)


def _from_shelf(rig: ResolvedRig, words: tuple[str, ...], shelf: Iterable[Profile]) -> Iterator[FromShelf]:
    """The nearest on the shelf that give a function which the words name and no device here gives.

    Nearest is what gives it over something that is spoken in this rig already, then what is light.
    """
    here = {
        one
        for placed in rig.devices.values()
        for surface in placed.profile.surfaces
        for one in placed.profile.given_at(surface.id)
    }
    known = vocabulary().functions
    asked = {key for key, one in known.items() if key not in here and set(_words(one.name)) & set(words)}
    spoken = {
        role.name for placed in rig.devices.values() for end in placed.profile.endpoints.values() for role in end.roles
    }

    def distance(found: tuple[Profile, str, str]) -> tuple[bool, float, str]:
        profile = found[0]
        speaks = {end[1].name for one in profile.emits if (end := profile.role(one.over))}
        return not speaks & spoken, profile.mass_g, profile.id

    giving = [
        (profile, surface.name, function)
        for profile in shelf
        for surface in profile.surfaces
        for function in sorted(asked & profile.given_at(surface.id))
    ]
    nearest = {profile.id: (profile, surface, function) for profile, surface, function in sorted(giving, key=distance)}
    for profile, surface, function in list(nearest.values())[:FROM_SHELF]:
        name = f"{profile.name[0].lower()}{profile.name[1:]}"
        yield FromShelf(profile=profile.id, says=f"Take one that gives {known[function].name}: {name} ({surface})")


def _nothing(rig: ResolvedRig, offers: list[_Offer], words: tuple[str, ...]) -> str:
    if not rig.devices:
        return "There is no device in this rig yet: take some from the shelf first."
    every = frozenset(word for offer in offers for word in offer.words)
    strange = [word for word in words if _fit(word, every) is None]
    functions = dict.fromkeys(vocabulary().functions[one.function].name for one in offers if one.function)
    known = ", ".join([*functions, *(["picture"] if any(one.function is None for one in offers) else [])])
    what = f"Nothing in this rig is called “{' '.join(strange or words)}”" if strange else "No one device has all that"
    return f"{what}. It has: {known or 'nothing to touch or look at'}."
