"""Numbers the tickets across the whole day."""
sold = 0
takings = 0


def sell(price):
    global sold, takings
    sold += 1
    takings = takings + price
    return sold


def day(prices):
    global sold, takings
    sold = 0
    takings = 0
    for price in prices:
        sell(price)
    return sold, takings


def mean(prices):
    number, money = day(prices)
    if number == 0:
        return 0
    return money / number
