def read(line):
    day, kind, wind = line.split(",")
    return int(day), kind.strip(), int(wind)


def longest(days, kind):
    best = run = 0
    last = None
    for day, what, _ in days:
        if what == kind and (last is None or day == last + 1):
            run += 1
        elif what == kind:
            run = 1
        else:
            run = 0
        if what == kind:
            last = day
        best = max(best, run)
    return best


def calm_share(days, limit):
    calm = sum(1 for _, _, wind in days if wind < limit)
    return round(calm / len(days) * 100, 1) if days else 0.0


def windiest(days):
    top = None
    for day, _, wind in days:
        if top is None or wind > top[1]:
            top = (day, wind)
    return top


def report(lines, kind="rain", limit=20):
    days = [read(line) for line in lines if line.strip()]
    days.sort()
    return longest(days, kind), calm_share(days, limit), windiest(days)
