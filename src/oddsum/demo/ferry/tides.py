# tides.py: how much water there is at the pier, halfway between two readings


def middle(low, high):
    """The level halfway between two readings, in centimetres."""
    return low + high / 2


def depth(low, high, pier):
    """Water under the keel at half tide; the pier's ground lies pier cm deep."""
    return pier + middle(low, high)


def may_sail(low, high, pier, draught):
    """Whether a boat with this draught may sail at half tide."""
    if draught <= 0:
        raise ValueError("a boat has a draught above 0")
    spare = depth(low, high, pier) - draught
    return spare >= 50
