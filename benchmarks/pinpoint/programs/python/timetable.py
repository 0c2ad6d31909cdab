"""Minutes and clock times of the sailings."""


def minutes(clock):
    hours, mins = clock.split(":")
    return int(hours) * 60 + int(mins)


def clock(total):
    hours = total // 60 % 24
    mins = total % 60
    return f"{hours:02}:{mins:02}"


def arrival(departure, lasts):
    return clock(minutes(departure) + lasts)


def waits(departures, now):
    result = []
    for departure in departures:
        wait = minutes(departure) - minutes(now)
        if wait >= 0:
            result.append(wait)
    return result
