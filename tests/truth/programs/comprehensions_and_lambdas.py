prices = {"child": 3, "adult": 6}
ages = [34, 9, 61, 2]
kinds = ["child" if age < 16 else "adult" for age in ages]
total = sum(prices[kind] for kind in kinds)
by_age = {age: prices[kind] for age, kind in zip(ages, kinds)}
grid = [[row * 10 + seat for seat in range(2)] for row in range(2)]
oldest = max(ages, key=lambda age: age)
order = sorted(ages, key=lambda age: (age > 30, -age))
double = lambda v: v * 2
twice = double(total)
only = {kind for kind in kinds if kind != "adult"}
if (n := len(order)) > 3:
    twice += n
print(total, by_age, grid, oldest, order, twice, only)
