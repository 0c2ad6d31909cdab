LIMIT = 3500


def axle(weights, at):
    return weights[at] + weights[at + 1]


def loads(weights):
    """The load on each pair of wheels, the heaviest first."""
    found = []
    for at in range(0, len(weights) - 1, 2):
        found.append(axle(weights, at))
    return sorted(found, reverse=True)


def state(weights):
    every = loads(weights)
    if not every:
        return "no vehicle"
    if every[0] > LIMIT / 2:
        return "axle too heavy"
    if sum(every) > LIMIT:
        return "too heavy"
    return "may board"


def fee(weights):
    total = sum(loads(weights))
    steps = -(-total // 500)
    return 5 + 2 * steps if state(weights) == "may board" else 0


def main():
    count = int(input())
    total = 0
    for _ in range(count):
        weights = [int(w) for w in input().split()]
        print(state(weights), fee(weights))
        total += fee(weights)
    print("takings", total)


if __name__ == "__main__":
    main()
