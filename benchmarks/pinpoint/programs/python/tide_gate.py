def states(levels, close_at, open_at):
    gate = "open"
    seen = []
    for level in levels:
        if gate == "open" and level >= close_at:
            gate = "closed"
        elif gate == "closed" and level <= open_at:
            gate = "open"
        seen.append(gate)
    return seen


def changes(seen):
    count = 0
    before = "open"
    for state in seen:
        if state != before:
            count += 1
        before = state
    return count


def longest_closed(seen):
    best = 0
    run = 0
    for state in seen:
        if state == "closed":
            run += 1
            best = max(best, run)
        else:
            run = 0
    return best


def day(levels, close_at=30, open_at=20):
    seen = states(levels, close_at, open_at)
    share = round(100 * seen.count("closed") / len(seen)) if seen else 0
    return changes(seen), longest_closed(seen), share
