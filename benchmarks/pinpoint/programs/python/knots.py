"""Speeds and times of a crossing."""


def hours(miles, knots):
    if knots <= 0:
        return None
    return miles / knots


def as_text(time):
    whole = int(time)
    mins = round((time - whole) * 60)
    return f"{whole} h {mins} min"


def crossing(miles, knots, current):
    speed = knots + current
    time = hours(miles, speed)
    if time is None:
        return "no way"
    return as_text(time)
