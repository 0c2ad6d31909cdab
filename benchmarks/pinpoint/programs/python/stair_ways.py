def ways(steps, sizes):
    counts = [0] * (steps + 1)
    counts[0] = 1
    for done in range(1, steps + 1):
        for size in sizes:
            if size <= done:
                counts[done] += counts[done - size]
    return counts[steps]


def fewest(amount, coins):
    best = [0] + [None] * amount
    for part in range(1, amount + 1):
        for coin in coins:
            if coin <= part and best[part - coin] is not None:
                tried = best[part - coin] + 1
                if best[part] is None or tried < best[part]:
                    best[part] = tried
    return best[amount]


def shared(one, other):
    rows = [[0] * (len(other) + 1) for _ in range(len(one) + 1)]
    for i, a in enumerate(one, 1):
        for j, b in enumerate(other, 1):
            if a == b:
                rows[i][j] = rows[i - 1][j - 1] + 1
            else:
                rows[i][j] = max(rows[i - 1][j], rows[i][j - 1])
    return rows[-1][-1]
