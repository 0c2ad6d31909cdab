DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]


def leap(year):
    return year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)


def day_number(year, month, day):
    total = day
    for m in range(1, month):
        total += DAYS[m - 1]
    if leap(year) and month > 2:
        total += 1
    return total


def months(readings):
    sums = [0] * 12
    for (month, _), fallen in readings.items():
        sums[month - 1] += fallen
    return sums


def wettest(readings):
    sums = months(readings)
    most = 0
    for m in range(len(sums)):
        if sums[m] > sums[most]:
            most = m
    return most + 1


def dry_spell(year, readings):
    days = sorted(day_number(year, m, d) for (m, d), fallen in readings.items() if fallen > 0)
    longest = 0
    for before, after in zip(days, days[1:]):
        longest = max(longest, after - before - 1)
    return longest


def book(year, readings):
    return wettest(readings), dry_spell(year, readings), sum(months(readings))
