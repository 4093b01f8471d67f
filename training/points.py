"""The points the network is taught, in the order of its output maps, and how sides change places in a mirror."""

POINTS = [
    "instrument.nut.low",
    "instrument.nut.high",
    "instrument.fingerboardEnd.low",
    "instrument.fingerboardEnd.high",
    "instrument.bridge.low",
    "instrument.bridge.high",
    "instrument.bridgeFoot.low",
    "instrument.bridgeFoot.high",
    "instrument.scroll",
    "instrument.endButton",
    "instrument.tailpieceEnd",
    "instrument.upperCorner.low",
    "instrument.upperCorner.high",
    "instrument.lowerCorner.low",
    "instrument.lowerCorner.high",
    "bow.frog",
    "bow.tip",
]


def other_side(name: str) -> str:
    if name.endswith(".low"):
        return name[:-4] + ".high"
    if name.endswith(".high"):
        return name[:-5] + ".low"
    return name


# A violin seen in a mirror looks like a violin with its sides swapped.
MIRRORED = [POINTS.index(other_side(name)) for name in POINTS]
