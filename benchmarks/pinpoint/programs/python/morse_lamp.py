CODES = {"a": ".-", "e": ".", "k": "-.-", "m": "--", "n": "-.", "o": "---", "s": "...", "t": "-"}


def flashes(message):
    shown = []
    for letter in message.lower():
        if letter in CODES:
            shown.append(CODES[letter])
    return " ".join(shown)


def length(message):
    units = 0
    letters = 0
    for letter in message.lower():
        if letter not in CODES:
            continue
        if letters > 0:
            units += 3
        code = CODES[letter]
        for place, mark in enumerate(code):
            if place > 0:
                units += 1
            if mark == "-":
                units += 3
            else:
                units += 1
        letters += 1
    return units


def read_back(shown):
    letters = {code: letter for letter, code in CODES.items()}
    text = ""
    for code in shown.split(" "):
        text += letters.get(code, "?")
    return text


def check(message):
    shown = flashes(message)
    return shown, length(message), read_back(shown)
