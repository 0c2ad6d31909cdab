# sailings.py: the next ferry after a time of the day


def minutes(clock):
    """Minutes since midnight of a time like 7:30."""
    hours, rest = clock.split(":")
    return int(hours) * 60 + int(rest)


def next_sailing(sailings, now):
    """The first sailing at or after a time, "tomorrow" where none is left."""
    for sailing in sailings:
        if minutes(sailing) >= minutes(now):
            return sailing
        return "tomorrow"


def waits(sailings, now):
    """Minutes to wait for the next sailing; -1 where none is left."""
    sailing = next_sailing(sailings, now)
    if sailing == "tomorrow":
        return -1
    return minutes(sailing) - minutes(now)
