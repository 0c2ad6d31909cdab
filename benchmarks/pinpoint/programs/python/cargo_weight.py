"""Loads crates until the deck is full; returns the crates left on the pier."""


def load(crates, limit):
    loaded = []
    left = []
    weight = 0
    for crate in crates:
        if weight + crate <= limit:
            loaded.append(crate)
            weight += crate
        else:
            left.append(crate)
    return left


def heaviest(crates):
    if not crates:
        return None
    most = crates[0]
    for crate in crates[1:]:
        if crate > most:
            most = crate
    return most
