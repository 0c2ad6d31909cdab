def to_minutes(text):
    hour, minute = text.split(":")
    return int(hour) * 60 + int(minute)


def to_text(minutes):
    minutes %= 24 * 60
    return f"{minutes // 60:02}:{minutes % 60:02}"


def tides(first, count):
    """Times of high water, one every 12 hours and 25 minutes."""
    start = to_minutes(first)
    return [to_text(start + n * (12 * 60 + 25)) for n in range(count)]


def gap(one, other):
    """Minutes from one time to the next other, past midnight as well."""
    return (to_minutes(other) - to_minutes(one)) % (24 * 60)


def best(times, at):
    """The time nearest to another, before or after."""
    return min(times, key=lambda t: (min(gap(t, at), gap(at, t)), t))
