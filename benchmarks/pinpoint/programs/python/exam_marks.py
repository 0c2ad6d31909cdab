def parse(text):
    marks = {}
    for part in text.split(";"):
        name, numbers = part.split("=")
        marks[name.strip()] = [int(n) for n in numbers.split()]
    return marks


def counted(numbers, drop):
    kept = sorted(numbers)
    if drop and len(kept) > 2:
        kept = kept[1:]
    return kept


def mean(numbers):
    if not numbers:
        return 0.0
    return sum(numbers) / len(numbers)


def grade(value):
    steps = [(85, "very good"), (70, "good"), (50, "passed")]
    for least, word in steps:
        if value >= least:
            return word
    return "again"


def table(text, drop=True):
    marks = parse(text)
    rows = []
    for name, numbers in marks.items():
        value = mean(counted(numbers, drop))
        rows.append((name, round(value, 1), grade(value)))
    rows.sort(key=lambda r: (-r[1], r[0]))
    passed = sum(1 for r in rows if r[2] != "again")
    return rows, passed
