"""Tidies the names of harbours typed by hand, and finds one again."""


def tidy(name):
    name = name.strip()
    return name.title()


def find(names, wanted):
    wanted = tidy(wanted)
    for number, name in enumerate(names):
        if tidy(name) == wanted:
            return number
    return -1


def initials(name):
    letters = ""
    for word in name.split():
        letters = letters + word[0].upper()
    return letters
