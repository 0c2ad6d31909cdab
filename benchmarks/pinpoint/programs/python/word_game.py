VALUES = {"a": 1, "e": 1, "r": 1, "t": 1, "s": 1, "d": 2, "b": 3, "f": 4, "k": 5, "q": 10}


def points(word):
    total = 0
    for letter in word.lower():
        total += VALUES.get(letter, 2)
    if len(word) >= 7:
        total += 50
    return total


def can_make(word, letters):
    left = list(letters)
    for letter in word:
        if letter not in left:
            return False
        left.remove(letter)
    return True


def best_word(words, letters):
    best, most = None, 0
    for word in words:
        if can_make(word, letters):
            mine = points(word)
            if mine > most or (mine == most and len(word) < len(best)):
                best, most = word, mine
    return best, most


def game(rounds):
    totals = {}
    for player, word, doubled in rounds:
        mine = points(word) * (2 if doubled else 1)
        totals[player] = totals.get(player, 0) + mine
    order = sorted(totals.items(), key=lambda pair: (-pair[1], pair[0]))
    return order
