COINS = [200, 100, 50, 20, 10, 5, 2, 1]


def change(amount):
    given = {}
    for coin in COINS:
        number = amount // coin
        if number > 0:
            given[coin] = number
            amount -= number * coin
    return given


def pieces(amount):
    return sum(change(amount).values())


def till(sales):
    drawer = {}
    for price, paid in sales:
        if paid < price:
            continue
        for coin, number in change(paid - price).items():
            drawer[coin] = drawer.get(coin, 0) + number
    return sorted(drawer.items())


def evening(sales):
    most = 0
    for price, paid in sales:
        if paid >= price:
            most = max(most, pieces(paid - price))
    return till(sales), most
