# waiting.py: how many crossings it takes until no car waits any longer

DECK = 12


def crossings(waiting, arriving):
    """Crossings until nobody waits; while one is under way, some more cars arrive.

    After the sixth crossing the road is closed and no car arrives any more.
    """
    count = 0
    while waiting > 0:
        aboard = min(waiting, DECK)
        waiting = waiting - aboard
        if count < 6:
            waiting = waiting + arriving
    return count
