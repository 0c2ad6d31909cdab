import math


def height(hours, low, high, period=12.4):
    middle = (high + low) / 2
    swing = (high - low) / 2
    return middle - swing * math.cos(2 * math.pi * hours / period)


def table(low, high, step):
    rows = []
    hours = 0
    while hours <= 12:
        rows.append(f"{hours:02d}h {height(hours, low, high):.2f}")
        hours += step
    return rows


def safe(draught, low, high, margin=0.5):
    found = []
    for hours in range(0, 13):
        if height(hours, low, high) >= draught + margin:
            found.append(hours)
    if not found:
        return None
    return found[0], found[-1], len(found)


def gates(draughts, low, high):
    told = {}
    for name, draught in draughts.items():
        hours = safe(draught, low, high)
        told[name] = "never" if hours is None else f"{hours[0]}-{hours[1]}"
    return told
