def climb(n, path):
    path.append(n)
    if n == 0:
        return 1
    total = 0
    for step in range(1, min(n, 2) + 1):
        total += climb(n - step, path)
    return total


def fewest(cars, lanes):
    if not cars:
        return 0
    return 1 + fewest(cars[lanes:], lanes)


path = []
ways = climb(4, path)
lanes = fewest([1, 2, 3, 4, 5], 2)
memo = {}


def remembered(n):
    if n in memo:
        return memo[n]
    memo[n] = n if n < 2 else remembered(n - 1) + remembered(n - 2)
    return memo[n]


value = remembered(6)
print(ways, path, lanes, value)
