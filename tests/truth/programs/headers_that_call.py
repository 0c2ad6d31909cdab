def names():
    return ["Ann", "Bo", "Cy"]


def going(n):
    return n < 3


def twice(v):
    return 2 * v


total = 0
for name in names():
    total += len(name)
n = 0
while going(n):
    n += 1
for age in sorted([34, 9, 61], key=lambda a: -a):
    if age < 10:
        break
    total += age
for value in map(twice, [1, 2, 3]):
    total += value
for value in filter(lambda v: v > 1, [1, 2, 3]):
    total += value
for a, b in zip(names(), range(9)):
    total += b
while total > 0 and going(n - 3):
    n += 1
    total -= 10
for row in [names(), names()]:
    for name in row:
        if name == "Bo":
            break
    else:
        total = -1
print(total, n)
