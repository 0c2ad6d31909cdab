LEGS = {"Cape": 14, "Fort": 22, "Light": 35}


def burn(miles, knots):
    hours = miles / knots
    return hours * (2 + 0.01 * knots ** 3)


def make_meter(start):
    used = 0

    def take(litres):
        nonlocal used
        used += litres
        return start - used

    return take


def day(ports, knots, tank):
    meter = make_meter(tank)
    left = tank
    visited = []
    for port in ports:
        if port not in LEGS:
            continue
        need = burn(LEGS[port], knots) * 2
        if need > left:
            break
        left = meter(need)
        visited.append(port)
    return visited, round(left, 1)


def best_speed(miles, tank):
    best = None
    for knots in range(4, 21):
        if burn(miles, knots) <= tank:
            best = knots
    return best
