def readings(text):
    for line in text.splitlines():
        line = line.strip()
        if not line or line.startswith("#"):
            continue
        name, _, value = line.partition("=")
        yield name.strip(), float(value)


def summary(text):
    rows = list(readings(text))
    if not rows:
        return "nothing"
    total = sum(value for _, value in rows)
    highest = max(rows, key=lambda row: row[1])
    return f"{len(rows)} readings, mean {total / len(rows):.1f}, highest {highest[0]}"


def by_name(text):
    found = {}
    for name, value in readings(text):
        found.setdefault(name, []).append(value)
    return {name: max(values) for name, values in sorted(found.items())}
