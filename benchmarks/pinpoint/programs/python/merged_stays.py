def merge(stays):
    merged = []
    for first, last in sorted(stays):
        if merged and first <= merged[-1][1]:
            merged[-1][1] = max(merged[-1][1], last)
        else:
            merged.append([first, last])
    return merged


def days_taken(stays):
    total = 0
    for first, last in merge(stays):
        total += last - first + 1
    return total


def free_days(stays, month):
    taken = set()
    for first, last in stays:
        for day in range(first, last + 1):
            taken.add(day)
    return [day for day in range(1, month + 1) if day not in taken]


def report(stays, month):
    return merge(stays), days_taken(stays), len(free_days(stays, month))
