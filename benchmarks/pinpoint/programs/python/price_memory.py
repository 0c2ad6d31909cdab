class Prices:
    def __init__(self, base):
        self.base = dict(base)
        self.known = {}

    def change(self, route, price):
        self.base[route] = price
        self.known.clear()

    def price(self, route, people):
        key = (route, people)
        if key not in self.known:
            self.known[key] = self.work_out(route, people)
        return self.known[key]

    def work_out(self, route, people):
        each = self.base[route]
        if people >= 10:
            each = each * 0.9
        return round(each * people, 2)


def season(steps):
    prices = Prices({"ard": 4, "holm": 7})
    told = []
    for step in steps:
        if step[0] == "set":
            prices.change(step[1], step[2])
        else:
            told.append(prices.price(step[1], step[2]))
    return told
