LINKS = {
    "ard": ["holm", "ness"],
    "holm": ["ard", "skerry"],
    "ness": ["ard", "skerry", "voe"],
    "skerry": ["holm", "ness"],
    "voe": ["ness"],
    "unst": [],
}


def reach(start, steps):
    """Places that can be come to with at most so many crossings."""
    seen = {start}
    edge = [start]
    for _ in range(steps):
        following = []
        for place in edge:
            for other in LINKS[place]:
                if other not in seen:
                    seen.add(other)
                    following.append(other)
        edge = following
    return sorted(seen)


def crossings(start, goal, before=()):
    """The fewest crossings from one place to another; None where there is no way."""
    if start == goal:
        return 0
    best = None
    for other in LINKS[start]:
        if other in before:
            continue
        found = crossings(other, goal, (*before, start))
        if found is not None and (best is None or found + 1 < best):
            best = found + 1
    return best
