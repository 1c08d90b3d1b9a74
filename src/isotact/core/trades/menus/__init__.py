"""Menus: modes, settings and when they take, prompts, picture formats, firmware, licences."""

from isotact.core.trades.menus.acts import (
    Answer,
    AnswerMissed,
    FirmwareOld,
    LicenceGone,
    ModeWrong,
    NotTaken,
    SendAnother,
    Set,
    SetMode,
    SetWrong,
)
from isotact.core.trades.menus.conditions import ModeIs, PromptAnswered, SettingIs
from isotact.core.trades.menus.derive import care, derive
from isotact.core.trades.menus.lamps import LAMPS
from isotact.core.trades.menus.loaded_conditions import FirmwareAtLeast, FormatAccepted, LicenceLoaded
from isotact.core.trades.menus.offers import offers
from isotact.core.trades.menus.order import arrange
from isotact.core.trades.trade import Trade
from isotact.core.world import Menus

TRADE = Trade(
    name="menus",
    state=(Menus,),
    acts=(
        SetMode, Set, Answer, SetWrong, NotTaken, ModeWrong, SendAnother, AnswerMissed, FirmwareOld, LicenceGone,
    ),
    conditions=(ModeIs, SettingIs, FormatAccepted, PromptAnswered, FirmwareAtLeast, LicenceLoaded),
    lamps=LAMPS,
    derive=derive,
    care=care,
    arrange=arrange,
    offers=offers,
)  # fmt: skip
