"""Spells a text with the words used on the radio."""
WORDS = {"a": "Alder", "b": "Birch", "e": "Elm", "o": "Oak"}


def spell(text):
    result = []
    for letter in text.lower():
        if letter == " ":
            result.append("-")
        elif letter in WORDS:
            result.append(WORDS[letter])
        else:
            result.append(letter.upper())
    return " ".join(result)


def shout(text):
    text = text.replace("!", "")
    return text.upper() + "!"


def known(text):
    count = 0
    for letter in text:
        if letter in WORDS:
            count += 1
    return count == len(text)
