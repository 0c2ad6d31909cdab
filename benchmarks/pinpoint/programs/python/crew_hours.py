"""Works out pay from hours, with overtime."""
RATE = 12
NORMAL = 38


def pay(hours):
    if hours <= NORMAL:
        return hours * RATE
    extra = hours - NORMAL
    return NORMAL * RATE + extra * RATE * 1.5


def parse(text):
    name, hours = text.split(",")
    return name.strip(), int(hours)


def total_pay(lines):
    total = 0
    for line in lines:
        name, hours = parse(line)
        total += pay(hours)
    return total
