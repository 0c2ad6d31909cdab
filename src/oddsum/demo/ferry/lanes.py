# lanes.py: where the cars stand on the car deck

LANE_LENGTH = 24.0
GAP = 0.5


def room_needed(lengths):
    """Metres that the cars of one lane take, with a gap between each two."""
    needed = 0.0
    for i in range(len(lengths) - 1):
        needed = needed + lengths[i]
    if lengths:
        needed = needed + GAP * (len(lengths) - 1)
    return needed


def fits(lengths):
    """Whether the cars fit into one lane."""
    for length in lengths:
        if length <= 0:
            raise ValueError("a car has a length above 0")
    return room_needed(lengths) <= LANE_LENGTH


def longest(lengths):
    """The longest car, None where the lane is empty."""
    best = None
    for length in lengths:
        if best is None or length > best:
            best = length
    return best
