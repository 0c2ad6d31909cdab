def code(name):
    letters = [c for c in name.upper() if c.isalpha()]
    first = letters[0]
    rest = [c for c in letters[1:] if c not in "AEIOU"]
    made = first + "".join(rest)
    return (made + "XXX")[:3]


def unique(names):
    used = {}
    given = []
    for name in names:
        base = code(name)
        number = used.get(base, 0) + 1
        used[base] = number
        given.append(base if number == 1 else f"{base[:2]}{number}")
    return given


def check_letter(text):
    total = 0
    for place, letter in enumerate(text):
        value = int(letter) if letter.isdigit() else ord(letter) - ord("A") + 10
        total += value * 2 ** place
    return "ABCDEFGHJKL"[total % 11]


def labels(names):
    return [c + check_letter(c) for c in unique(names)]
