def visits(entries):
    """How often each guest came, their names written alike."""
    counts = {}
    for entry in entries:
        name = entry.strip().title()
        counts[name] = counts.get(name, 0) + 1
    return counts


def regulars(entries, least=3):
    counts = visits(entries)
    found = [name for name, count in counts.items() if count >= least]
    return sorted(found, key=lambda name: (-counts[name], name))


def first_visits(entries, seen=None):
    seen = set() if seen is None else seen
    new = []
    for entry in entries:
        name = entry.strip().title()
        if name not in seen:
            new.append(name)
            seen.add(name)
    return new


def two_days(one, other):
    return first_visits(one), first_visits(other)
