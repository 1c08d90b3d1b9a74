"""What a plan costs, in points: one place, so that planner, explanation and tests agree on the price list."""

from isotact.core.model.ports import Upset

# What is weighed is a crew's trouble on the day. One point is about five seconds of a pair of hands on a tailgate, so
# that the list can be argued with: to lay out, flag and plug a cable takes ten of these. Common practice, no source.

# Lay out, flag and plug both ends, and one more thing that can be pulled.
JOIN = 10
# Two parts that click together: hardly any work, but they still have to be brought.
DIRECT = 2
# Quicker than a cable, but it has to be made again after every power-off, and it can be lost.
RADIO = 6
# Between DIRECT and JOIN: it is one more contact that works loose, and the first thing to be forgotten in the van.
ADAPTER = 6
# A service loop to lay and tie; half a join, so that a shorter way round an axis never costs a further cable.
AXIS = 4
# A metre is worth one join: of two cables that do the same the shorter is taken, but not two short for a long one.
PER_100_MM = 1
# Of two leads that feed as well the one that loses less is taken: half as dear as the same in length, since nobody
# trips over it. A tenth of a volt at two amps is a twentieth of an ohm.
THIN = 1
# Seen at a glance, yet everything that hangs on the other mode goes: dearer than a setting, cheaper than a cable.
MODE = 5
# Twenty seconds in a menu, plus somebody who finds it changed tomorrow.
SETTING = 3
# One press at every start.
ANSWER = 1
# What choosing a mode or a value undoes besides. A set-up wiped is saved before and made again, menu by menu, and
# somebody reads other numbers all day: dearer than a motor with its lead. The rest is waiting, and doing once more.
UPSETS: dict[Upset, int] = {
    "resets-settings": 40, "forgets-mapping": 12, "forgets-pairing": 12, "restarts": 6, "drops-links": 6,
    "restarts-driver": 4,
}  # fmt: skip
# Something to charge, wake and watch; half a join, or a spare box would be woven in to save a metre of cable.
DEVICE = 5
# A body without a lens is not shot with: dearer than an adapter, its lens and a lead together, and than any way round.
BARE = 100
# The gimbal is what the rig is for: only a promise, or a weight that it does not carry, keeps a body off it.
GROUNDED = 300
# What goes dark at each change of battery that was promised has to be started, and told its settings again: as dear as
# two cables, so that a plate that bridges the change is taken where one lies in the rig.
DARK = 20
# A recipe is followed with all that is in it, or it is another recipe: as dear as a body without its lens.
IDLE = 100
# A gimbal tied to something that stands: nobody walks with it, and the one who tries pulls the socket out. Dearer than
# a transmitter with its receiver and their leads, so that these are taken wherever they lie in the rig.
LEASH = 80
# In a rig that is built: out, in again, tied, and more often than not balanced again. Three cables in a bare rig.
CHANGE = 30
# Ten frames at 25 a second are as bad as four cables: lateness bends the choice only where wiring is about equal.
PER_10_MS = 1

WORDS = {
    "join": ("cables to plug", JOIN),
    "direct": ("parts to mount", DIRECT),
    "radio": ("radio links to make", RADIO),
    "adapter": ("adapters", ADAPTER),
    "leash": ("cables that tie the gimbal down", LEASH),
    "axis": ("axes crossed by cables", AXIS),
    "length": ("cable length, per 10 cm", PER_100_MM),
    "thin": ("volts lost in leads that feed, per 50 milliohms", THIN),
    "mode": ("modes to change", MODE),
    "setting": ("settings to change", SETTING),
    "answer": ("prompts to answer", ANSWER),
    "upset": ("undone by a mode or setting", 1),
    "device": ("devices in use", DEVICE),
    "bare": ("bodies without a lens", BARE),
    "grounded": ("bodies off the gimbal", GROUNDED),
    "dark": ("devices that go dark at a battery change", DARK),
    "idle": ("devices that a recipe lacks", IDLE),
    "delay": ("picture delay, per 10 ms", PER_10_MS),
    "change": ("changes to what is plugged", CHANGE),
}


def length_units(length_mm: float) -> int:
    """Whole tenths of a metre, rounded up."""
    return int(-(-length_mm // 100))


def thin_units(ohm: float) -> int:
    """Whole twentieths of an ohm, there and back: what is less nobody feels."""
    return int(ohm / 0.05)


def delay_units(delay_ms: float) -> int:
    """Whole tens of milliseconds, rounded up."""
    return int(-(-delay_ms // 10))


# What it takes to change the case itself, on the same scale, but counted in errands: a cable is a word to the rental
# counter, a device is a drive. Each is dearer than any rewiring that would make it unnecessary.

# Two joins and a half: rather two cables from the bag than one from the shop.
GET_CABLE = 25
# Smaller, cheaper and more often at hand than a cable.
GET_ADAPTER = 20
# A screw or an arm: any shop has it, and it weighs nothing in a pocket.
GET_PART = 10
# Rarer than cable and adapter.
GET_SPLITTER = 35
# To be hired, insured, carried and learnt: as much as three cables.
GET_DEVICE = 80
# So that of two devices that would do the lighter is named: what is heavy has to be balanced as well.
GET_PER_100_G = 2
# An hour on the internet on prep day, and the risk of the new version: a little more than a cable.
LOAD_FIRMWARE = 30
# Costs money, and wants somebody who may spend it.
LOAD_LICENCE = 60
# A charger overnight: nothing to get, somebody to think of it.
CHARGE = 10
# A word to the counter, as a cable is, and it has to be charged.
GET_SPARE = 25
# Each time the set waits, and what the device was told has to be told again.
ALLOW_CHANGE = 30
# Times the weight of the promise, 1 to 9: a small wish goes before a device is hired, the record button never does.
DROP_PER_WEIGHT = 40


GET = {"cable": GET_CABLE, "adapter": GET_ADAPTER, "splitter": GET_SPLITTER}


def get_device(mass_g: float) -> int:
    """The price of bringing a device: what is heavy is a nuisance besides."""
    return GET_DEVICE + GET_PER_100_G * int(-(-mass_g // 100))
