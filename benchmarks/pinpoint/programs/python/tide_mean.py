"""The mean level of the tide, and how far it swings."""


def mean_level(levels):
    if len(levels) == 0:
        return 0
    return sum(levels) / len(levels)


def swing(low, high):
    middle = (low + high) / 2
    return round(high - middle, 2)


def spread(levels):
    middle = mean_level(levels)
    most = 0
    for level in levels:
        distance = abs(level - middle)
        if distance > most:
            most = distance
    return most
