"""Turns names into booking codes and back."""


def code(name, number):
    letters = name[:3].upper()
    return letters + "-" + str(number).zfill(3)


def number_of(text):
    return int(text.split("-")[1])


def mirrored(text):
    result = ""
    for letter in text:
        result = letter + result
    return result


def same_both_ways(text):
    text = text.lower()
    return text == mirrored(text)
