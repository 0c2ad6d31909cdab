"""Reads the radio messages: the longest word, how often each came."""


def longest(text):
    best = ""
    for word in text.split():
        if len(word) > len(best):
            best = word
    return best


def times(text, wanted):
    count = 0
    for word in text.lower().split():
        if word.strip(".,!") == wanted:
            count += 1
    return count


def first_letters(text):
    seen = []
    for word in text.split():
        letter = word[0].lower()
        if letter in seen:
            continue
        seen.append(letter)
    return "".join(seen)
