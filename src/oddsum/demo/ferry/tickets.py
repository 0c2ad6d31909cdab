# tickets.py: what a book of tickets costs

PRICE = 6


def book(rides):
    """The price of a book: from ten rides on, every fifth ride is free."""
    free = 0
    if rides > 10:
        free = rides // 5
    return (rides - free) * PRICE


def share(price, people):
    """What each pays when a book is shared, in whole coins; the rest is paid by the first."""
    each = price // people
    first = each + price // people
    return [first] + [each] * (people - 1)
