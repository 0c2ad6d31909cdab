ROADS = [
    ("Pier", "Mill", 4), ("Pier", "Fort", 9), ("Mill", "Fort", 3), ("Fort", "Cape", 6),
    ("Mill", "Cape", 12), ("Cape", "Light", 2), ("Inn", "Barn", 1),
]


def network(roads):
    near = {}
    for one, other, cost in roads:
        near.setdefault(one, {})[other] = cost
        near.setdefault(other, {})[one] = cost
    return near


def cheapest(roads, start, goal):
    near = network(roads)
    costs = {start: 0}
    came = {}
    open_places = [start]
    while open_places:
        here = min(open_places, key=lambda place: costs[place])
        open_places.remove(here)
        for there, cost in near[here].items():
            new = costs[here] + cost
            if there not in costs or new < costs[there]:
                costs[there] = new
                came[there] = here
                if there not in open_places:
                    open_places.append(there)
    if goal not in costs:
        return None, []
    path = [goal]
    while path[0] != start:
        path.insert(0, came[path[0]])
    return costs[goal], path


def reach(roads, start, most):
    near = network(roads)
    return [place for place in sorted(near) if (cheapest(roads, start, place)[0] or 0) <= most
            and cheapest(roads, start, place)[1]]
