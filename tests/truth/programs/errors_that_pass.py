def check(age):
    if age < 0:
        raise ValueError("no such age")
    return age


def fares(ages):
    total = 0
    for age in ages:
        total += check(age) * 2
    return total


def safe(ages):
    try:
        return fares(ages)
    except ValueError as fault:
        said = str(fault)
        return said


good = safe([3, 4])
bad = safe([3, -1, 4])
caught = 0
for age in (1, -1, 2):
    try:
        check(age)
    except ValueError:
        caught += 1
        continue
    else:
        caught += 10
    finally:
        caught += 100
try:
    try:
        check(-5)
    finally:
        caught += 1000
except ValueError:
    caught += 1
print(good, bad, caught)
fares([1, -2])
