"""Takings by week and by weekday."""


def week_totals(table):
    totals = []
    for week in table:
        total = 0
        for amount in week:
            total += amount
        totals.append(total)
    return totals


def day_totals(table):
    days = len(table[0])
    totals = [0] * days
    for week in table:
        for day in range(days):
            totals[day] += week[day]
    return totals


def best_week(table):
    totals = week_totals(table)
    best = 0
    for number in range(len(totals)):
        if totals[number] > totals[best]:
            best = number
    return best + 1
