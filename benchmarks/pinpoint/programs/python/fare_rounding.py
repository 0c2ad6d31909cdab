def discount(price, percent):
    return price * (100 - percent) / 100


def fares(prices, percent):
    """Each price less the discount, on whole cents at the very end."""
    return [round(discount(p, percent), 2) for p in prices]


def total(prices, percent, tip=0):
    whole = sum(discount(p, percent) for p in prices)
    return round(whole + tip, 2)


def split(amount, people):
    """An amount in cents shared out; the first pay a cent more where it does not divide."""
    each, rest = divmod(amount, people)
    return [each + 1 if n < rest else each for n in range(people)]


def cheapest(offers):
    name, price = min(offers.items(), key=lambda offer: (offer[1], offer[0]))
    return f"{name} at {price:.2f}"
