def neighbours(row, column, deck):
    for down, right in ((1, 0), (-1, 0), (0, 1), (0, -1)):
        r, c = row + down, column + right
        if 0 <= r < len(deck) and 0 <= c < len(deck[0]):
            yield r, c


def painted(deck, row, column):
    old = deck[row][column]
    seen = {(row, column)}
    waiting = [(row, column)]
    while waiting:
        here = waiting.pop()
        for near in neighbours(*here, deck):
            if near not in seen and deck[near[0]][near[1]] == old:
                seen.add(near)
                waiting.append(near)
    return seen


def paint(deck, row, column, colour):
    done = painted(deck, row, column)
    made = []
    for r, line in enumerate(deck):
        text = ""
        for c, mark in enumerate(line):
            text += colour if (r, c) in done else mark
        made.append(text)
    return made


def work(deck, jobs):
    litres = 0
    for row, column, colour in jobs:
        litres += len(painted(deck, row, column)) * 3
        deck = paint(deck, row, column, colour)
    return deck, litres
