"""The shop on the pier: stock, orders, and what to buy."""


class Stock:
    def __init__(self):
        self.amounts = {}
        self.orders = []

    def put(self, name, amount):
        self.amounts[name] = self.amounts.get(name, 0) + amount

    def sell(self, name, amount):
        have = self.amounts.get(name, 0)
        sold = min(have, amount)
        self.amounts[name] = have - sold
        if self.amounts[name] < 5:
            self.orders.append(name)
        return sold

    def value(self, prices):
        total = 0
        for name, amount in self.amounts.items():
            total += amount * prices[name]
        return total


PRICES = {"map": 4, "rope": 9}


def day(puts, sales):
    stock = Stock()
    for name, amount in puts:
        stock.put(name, amount)
    sold = 0
    for name, amount in sales:
        sold += stock.sell(name, amount)
    return sold, stock.orders, stock.value(PRICES)
