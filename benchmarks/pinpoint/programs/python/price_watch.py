def moving(prices, size):
    means = []
    for end in range(size, len(prices) + 1):
        window = prices[end - size:end]
        means.append(round(sum(window) / size, 2))
    return means


def best_trade(prices):
    best = 0
    lowest = None
    for price in prices:
        if lowest is None or price < lowest:
            lowest = price
        best = max(best, price - lowest)
    return best


def trend(prices):
    ups = sum(1 for before, after in zip(prices, prices[1:]) if after > before)
    downs = sum(1 for before, after in zip(prices, prices[1:]) if after < before)
    if ups > downs:
        return "rising"
    if downs > ups:
        return "falling"
    return "steady"


def spread(prices):
    if not prices:
        return 0.0
    mean = sum(prices) / len(prices)
    return round((sum((p - mean) ** 2 for p in prices) / len(prices)) ** 0.5, 3)


def watch(prices, size=3):
    return moving(prices, size), best_trade(prices), trend(prices), spread(prices)
