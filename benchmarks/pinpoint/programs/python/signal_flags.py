"""Reads rows of flags: runs of the same flag, the longest one, and a short way to write them."""


def runs(text):
    """The runs of equal letters, as pairs of letter and length."""
    found = []
    current = ""
    length = 0
    for letter in text:
        if letter == current:
            length += 1
        else:
            if length > 0:
                found.append((current, length))
            current = letter
            length = 1
    if length > 0:
        found.append((current, length))
    return found


def packed(text):
    result = ""
    for letter, length in runs(text):
        if length > 1:
            result += str(length)
        result += letter
    return result


def unpacked(text):
    result = ""
    number = ""
    for sign in text:
        if sign.isdigit():
            number += sign
        elif number == "":
            result += sign
        else:
            result += sign * int(number)
            number = ""
    return result


def longest_run(text):
    best = ("", 0)
    for run in runs(text):
        if run[1] > best[1]:
            best = run
    return best
