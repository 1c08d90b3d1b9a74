"""A pack that an engineer could bring: a connector, a function and a kind of device that nobody shipped."""

WORDS = """\
format: isotact/words
version: 1
id: round-house
name: Words of the round house
connectors:
  round-6: {name: 6-pin round}
  snap-rail: {name: snap rail, direct: true, mated: "It snaps, and holds when you shake it."}
functions:
  false-horizon:
    name: false horizon
    act: switch on, then off
    seen: the line comes and goes on the picture
kinds:
  horizon-puck: {name: horizon puck, like: driver}
"""

PUCK = """\
format: isotact/profile
version: 1
id: puck
name: Puck
kind: horizon-puck
summary: One button on a round socket. Lives from the body.
mass_g: 80
stage: tilt-cage
ports:
  - id: out
    marking: OUT
    place: back
    side: back
    connector: round-6
    roles:
      - {kind: control, protocol: horizon-talk, medium: horizon-pair, end: host}
      - {kind: power, flow: in, min_v: 5, max_v: 8}
  - id: rail
    marking: rail
    place: below
    side: bottom
    connector: snap-rail
power: {draw_w: 0.5}
wake: {how: Hold its button two seconds., boot_s: 1, expect: the ring glows}
surfaces:
  - {id: button, name: button, kind: button}
emits:
  - {functions: [false-horizon], surface: button, over: out}
"""

BODY = """\
format: isotact/profile
version: 1
id: round-body
name: Round body
kind: camera-body
summary: A body with a round socket that draws a horizon into its own screen.
mass_g: 900
stage: tilt-cage
ports:
  - id: round
    marking: R6
    place: left side
    side: left
    connector: round-6
    roles:
      - {kind: control, protocol: horizon-talk, medium: horizon-pair, end: device}
      - {kind: power, flow: out, min_v: 7.2, max_v: 7.2, max_a: 0.5}
power: {draw_w: 9, inner_battery: {name: cell, energy_wh: 30}}
wake: {how: Slide the switch., boot_s: 3, expect: the screen is lit}
surfaces:
  - {id: screen, name: screen, kind: screen}
accepts:
  - {functions: [false-horizon], over: round}
"""

CABLE = """\
format: isotact/cable
version: 1
id: round-round-30
name: 6-pin round to 6-pin round, 0.3 m
family: control
ends: [{connector: round-6}, {connector: round-6}]
carries: [{medium: horizon-pair}, {medium: power, max_a: 1}]
length_mm: 300
"""

RIG = """\
format: isotact/rig
version: 1
id: round-rig
name: Round rig
devices: [{id: body, profile: round-body}, {id: puck, profile: puck}]
bag: [{cable: round-round-30, count: 1}]
promises:
  - {id: horizon, who: the operator, kind: control, function: false-horizon, at: {device: puck, surface: button}}
"""

PACK = "---\n".join((PUCK, CABLE, WORDS, BODY))
"""Its words stand in the middle: what a pack declares is known to the whole of it."""
