"""Counts jackets by size and says which are short."""


def count_sizes(people):
    counts = {}
    for size in people:
        if size in counts:
            counts[size] += 1
        else:
            counts[size] = 1
    return counts


def short(people, stock):
    counts = count_sizes(people)
    missing = []
    for size in sorted(counts):
        have = stock.get(size, 0)
        if have < counts[size]:
            missing.append((size, counts[size] - have))
    return missing
