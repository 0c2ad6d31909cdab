"""Which days the small ferry runs, and leap years."""
LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]


def is_leap(year):
    if year % 400 == 0:
        return True
    if year % 100 == 0:
        return False
    return year % 4 == 0


def days_in(month, year):
    if month == 2 and is_leap(year):
        return 29
    return LENGTHS[month - 1]


def day_of_year(day, month, year):
    total = day
    for earlier in range(1, month):
        total += days_in(earlier, year)
    return total


def runs(day, month):
    return month in (5, 6, 7) or day % 2 == 1
