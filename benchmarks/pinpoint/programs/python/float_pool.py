"""Compares readings and rounds them for the board."""


def same(a, b):
    return abs(a - b) < 0.01


def board(readings):
    shown = []
    for reading in readings:
        shown.append(round(reading, 1))
    return shown


def changes(readings):
    count = 0
    for i in range(1, len(readings)):
        if not same(readings[i], readings[i - 1]):
            count += 1
    return count


def mean_of(readings):
    total = 0
    for reading in readings:
        total += reading
    return round(total / len(readings), 2)
