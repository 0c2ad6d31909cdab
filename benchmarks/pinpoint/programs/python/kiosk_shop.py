class Item:
    def __init__(self, name, price, stock):
        self.name = name
        self.price = price
        self.stock = stock


class Kiosk:
    def __init__(self):
        self.items = {}
        self.takings = 0

    def add(self, name, price, stock):
        if name in self.items:
            self.items[name].stock += stock
        else:
            self.items[name] = Item(name, price, stock)

    def sell(self, name, amount):
        item = self.items.get(name)
        if item is None or item.stock < amount:
            return 0
        item.stock -= amount
        self.takings += amount * item.price
        return amount * item.price

    def worth(self):
        return sum(item.stock * item.price for item in self.items.values())


def day(orders):
    kiosk = Kiosk()
    kiosk.add("tea", 2, 10)
    kiosk.add("pie", 4, 5)
    kiosk.add("tea", 2, 3)
    for name, amount in orders:
        kiosk.sell(name, amount)
    return kiosk.takings, kiosk.worth()


def week(days):
    return [day(orders) for orders in days]
