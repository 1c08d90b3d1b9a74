"""The planner's optimum against a known number of graph theory.

Each vertex of a graph becomes a promise, each edge a device that both promises pass through and that can be in
only one of their two modes. The most promises that can be kept is then the graph's independence number.
Sources: networkx 3.6 (`max_weight_clique` of the complement), and for the Petersen graph, the icosahedron, the
Chvatal graph and the Groetzsch graph (Mycielski of the 5-cycle) the values in the literature: 4, 3, 4 and 5.
"""

import itertools

import networkx as nx
import pytest

from isotact.core.model import Profile, ResolvedRig
from isotact.core.planning import plan
from tests.rigs import control, profile, promise, rig_of

GRAPHS = {
    "petersen": (nx.petersen_graph(), 4),
    "icosahedron": (nx.icosahedral_graph(), 3),
    "chvatal": (nx.chvatal_graph(), 4),
    "groetzsch": (nx.mycielski_graph(4), 5),
}


def radio(key: str, protocol: str, end: str, peers: int = 60) -> dict:
    role = control(protocol, end, medium="air")
    return {
        "id": key, "name": key, "system": protocol, "part": "peer", "joins_by": "pairing", "peers": peers, "roles": [role],
    }  # fmt: skip


def edge_device(number: int, ends: tuple[int, int]) -> Profile:
    """A relay that passes each end's function only in that end's mode."""
    radios, relays = [], []
    for vertex in ends:
        radios += [
            radio(f"in-{vertex}", f"v{vertex}-e{number}-in", "device"),
            radio(f"out-{vertex}", f"v{vertex}-e{number}-out", "host"),
        ]
        relays.append(
            {"functions": ["record"], "over": f"in-{vertex}", "to": f"out-{vertex}", "when": {"mode": [f"v{vertex}"]}}
        )
    modes = {"how": "Turn.", "factory": f"v{ends[0]}", "values": [{"id": f"v{v}", "name": f"v{v}"} for v in ends]}
    return profile(f"edge-{number}", radios=radios, relays=relays, modes=modes)


def direct_rig(graph: nx.Graph) -> ResolvedRig:
    """One button per vertex whose way passes every edge device of that vertex, one after the other."""
    edges = list(graph.edges)
    profiles = [edge_device(number, edge) for number, edge in enumerate(edges)]
    promises = []
    for vertex in graph.nodes:
        stops = [number for number, edge in enumerate(edges) if vertex in edge]
        first = f"v{vertex}-e{stops[0]}-in"
        start = profile(
            f"start-{vertex}",
            radios=[radio("go", first, "host")],
            surfaces=[{"id": "button", "name": "button", "kind": "button"}],
            emits=[{"functions": ["record"], "surface": "button", "over": "go"}],
        )
        goal = profile(
            f"goal-{vertex}",
            radios=[radio("end", f"v{vertex}-e{stops[-1]}-out", "device")],
            accepts=[{"functions": ["record"], "over": "end"}],
        )
        profiles += [start, goal]
        profiles += [
            profile(
                f"hop-{vertex}-{number}",
                radios=[radio("a", f"v{vertex}-e{one}-out", "device"), radio("b", f"v{vertex}-e{other}-in", "host")],
                relays=[{"functions": ["record"], "over": "a", "to": "b"}],
            )
            for number, (one, other) in enumerate(itertools.pairwise(stops))
        ]
        promises.append(promise("record", f"start-{vertex}", "button", f"p{vertex}", weight=1))
    return rig_of(profiles, [], promises)


@pytest.mark.parametrize("name", GRAPHS)
def test_the_published_number_is_what_networkx_finds(name: str):
    graph, number = GRAPHS[name]
    clique, _ = nx.max_weight_clique(nx.complement(graph), weight=None)
    assert len(clique) == number


@pytest.mark.parametrize("graph", [nx.cycle_graph(5), nx.path_graph(6), nx.star_graph(4), nx.wheel_graph(6)], ids=str)
def test_the_most_promises_kept_is_the_independence_number(graph: nx.Graph, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("isotact.core.planning.ways.simple_ways.MAX_DEVICES", 14)
    clique, _ = nx.max_weight_clique(nx.complement(graph), weight=None)
    made = plan(direct_rig(graph))
    assert made.status == "proven-optimal"
    assert len(made.kept) == len(clique)


def test_petersen(monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("isotact.core.planning.ways.simple_ways.MAX_DEVICES", 14)
    monkeypatch.setattr("isotact.core.planning.planner.explain", lambda *_: iter(()))
    graph, number = GRAPHS["petersen"]
    made = plan(direct_rig(graph))
    assert made.status == "proven-optimal"
    assert len(made.kept) == number
