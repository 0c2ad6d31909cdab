def find(ages, wanted):
    for n, age in enumerate(ages):
        try:
            if age == wanted:
                return n
        finally:
            ages[n] = age + 1
    return -1


def first_large(ages):
    for age in ages:
        if age > 60:
            return age
    return None


def close(log):
    try:
        log.append("open")
        return len(log)
    finally:
        log.append("closed")


def guarded(n):
    try:
        return 12 // n
    except ZeroDivisionError:
        return 0
    finally:
        n = 99


log = []
ages = [34, 9, 61]
place = find(ages, 9)
none = find(ages, 1)
large = first_large(ages)
count = close(log)
share = guarded(3) + guarded(0)
for age in ages:
    try:
        if age > 30:
            break
    finally:
        count += 1
for age in ages:
    try:
        continue
    finally:
        count += 1
print(place, none, large, count, share, log)
