"""Looks at the barometer readings for falls."""


def falls(readings, limit):
    found = []
    for i in range(1, len(readings)):
        drop = readings[i - 1] - readings[i]
        if drop >= limit:
            found.append(i)
    return found


def smooth(readings):
    result = []
    for i in range(len(readings) - 2):
        part = readings[i:i + 3]
        result.append(sum(part) / 3)
    return result


def any_below(readings, limit):
    for reading in readings:
        if reading < limit:
            return True
    return False
