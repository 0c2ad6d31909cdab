VALUES = {"I": 1, "V": 5, "X": 10, "L": 50, "C": 100}
STEPS = [(100, "C"), (90, "XC"), (50, "L"), (40, "XL"), (10, "X"), (9, "IX"), (5, "V"),
         (4, "IV"), (1, "I")]


def to_number(plate):
    total = 0
    last = 0
    for sign in reversed(plate):
        value = VALUES[sign]
        if value < last:
            total -= value
        else:
            total += value
            last = value
    return total


def to_plate(number):
    plate = ""
    for value, signs in STEPS:
        while number >= value:
            plate += signs
            number -= value
    return plate


def next_plate(plate):
    return to_plate(to_number(plate) + 1)


def row(plates):
    return [(p, to_number(p), next_plate(p)) for p in plates]
