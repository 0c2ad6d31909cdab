"""Distances along a route with stops."""
LEGS = {("Ard", "Holm"): 4, ("Holm", "Skerry"): 7, ("Skerry", "Vane"): 5}


def leg(start, end):
    if (start, end) in LEGS:
        return LEGS[(start, end)]
    return LEGS.get((end, start), 0)


def distance(stops):
    total = 0
    for i in range(len(stops) - 1):
        total += leg(stops[i], stops[i + 1])
    return total


def there_and_back(stops):
    back = list(reversed(stops))
    return distance(stops) + distance(back)
