"""Fills the tanks until the ferry lies level."""


def fill(left, right, step):
    pumps = 0
    while left < right:
        left += step
        pumps += 1
    while right < left:
        right += 1
        pumps += 1
    return pumps, left


def double_until(start, limit):
    rounds = 0
    while start < limit:
        start *= 2
        rounds += 1
    return rounds
