PRICES = {"tea": 1.2, "soup": 4.5, "roll": 2.0, "cake": 3.25}


def read_item(text):
    text = text.strip().lower()
    if "x" in text.split(" ")[0] and text[0].isdigit():
        amount, name = text.split(" ", 1)
        return name.strip(), int(amount.rstrip("x"))
    return text, 1


def read_order(line):
    wanted = {}
    for part in line.split(","):
        if not part.strip():
            continue
        name, amount = read_item(part)
        wanted[name] = wanted.get(name, 0) + amount
    return wanted


def total(wanted):
    due = 0
    for name, amount in wanted.items():
        due += PRICES.get(name, 0) * amount
    if sum(wanted.values()) >= 6:
        due *= 0.9
    return round(due, 2)


def bill(line):
    wanted = read_order(line)
    unknown = sorted(name for name in wanted if name not in PRICES)
    lines = [f"{amount} {name}" for name, amount in sorted(wanted.items()) if name in PRICES]
    return lines, total(wanted), unknown
