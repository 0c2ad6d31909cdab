LETTERS = "abcdefghijklmnopqrstuvwxyz"


def shift(letter, by):
    if letter.lower() not in LETTERS:
        return letter
    place = (LETTERS.index(letter.lower()) + by) % 26
    moved = LETTERS[place]
    if letter.isupper():
        moved = moved.upper()
    return moved


def encode(text, word):
    made = ""
    used = 0
    for letter in text:
        if letter.isalpha():
            by = LETTERS.index(word[used % len(word)])
            made += shift(letter, by)
            used += 1
        else:
            made += letter
    return made


def decode(text, word):
    back = "".join(LETTERS[-LETTERS.index(c) % 26] for c in word)
    return encode(text, back)


def both(text, word):
    secret = encode(text, word)
    return secret, decode(secret, word)
