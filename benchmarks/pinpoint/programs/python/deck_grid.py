"""The deck as a grid of squares: cars are put on it."""


def empty_deck(rows, columns):
    deck = []
    for _ in range(rows):
        deck.append(["."] * columns)
    return deck


def park(deck, row, column, length):
    for step in range(length):
        deck[row][column + step] = "c"
    return deck


def parked(rows, columns, cars):
    deck = empty_deck(rows, columns)
    for row, column, length in cars:
        park(deck, row, column, length)
    return ["".join(row) for row in deck]


def free_squares(deck):
    free = 0
    for row in deck:
        free += row.count(".")
    return free
