def score(secret, guess):
    exact = sum(1 for s, g in zip(secret, guess) if s == g)
    common = 0
    for colour in set(guess):
        common += min(secret.count(colour), guess.count(colour))
    return exact, common - exact


def fits(guess, told, candidate):
    return score(candidate, guess) == told


def left_over(colours, length, history):
    options = [""]
    for _ in range(length):
        options = [text + colour for text in options for colour in colours]
    for guess, told in history:
        options = [c for c in options if fits(guess, told, c)]
    return options


def play(secret, guesses):
    history = []
    for number, guess in enumerate(guesses, 1):
        told = score(secret, guess)
        history.append((guess, told))
        if told[0] == len(secret):
            return f"found in {number}", []
    return "not found", left_over(sorted(set("RGB")), len(secret), history)
