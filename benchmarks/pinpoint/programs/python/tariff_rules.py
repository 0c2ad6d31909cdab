def makers():
    """A function for each zone that works out its fare."""
    found = []
    for zone in range(1, 4):
        def fare(age, zone=zone):
            if age < 6:
                return 0
            return 2 * zone if age < 16 else 4 * zone
        found.append(fare)
    return found


def family(ages, zone):
    fare = makers()[zone - 1]
    total = sum(fare(age) for age in ages)
    children = [age for age in ages if age < 16]
    if len(ages) - len(children) >= 2 and len(children) >= 2:
        total -= min(fare(age) for age in children)
    return total


def receipt(ages, zone):
    lines = [f"{age}: {makers()[zone - 1](age)}" for age in ages]
    lines.append(f"total {family(ages, zone)}")
    return lines
