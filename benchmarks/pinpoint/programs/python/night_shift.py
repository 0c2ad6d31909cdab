"""Rota: who works which night, taking turns."""


def rota(names, nights):
    plan = []
    for night in range(nights):
        plan.append(names[night % len(names)])
    return plan


def shifts(plan):
    counts = {}
    for name in plan:
        counts[name] = counts.get(name, 0) + 1
    return counts


def swap(plan, first, second):
    plan = plan[:]
    held = plan[first]
    plan[first] = plan[second]
    plan[second] = held
    return plan
