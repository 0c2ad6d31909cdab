class Account:
    def __init__(self, owner, balance=0):
        self.owner = owner
        self.balance = balance
        self.log = []

    def pay(self, amount):
        if amount > self.balance:
            raise ValueError("not enough")
        self.balance -= amount
        self.log.append(-amount)
        return self

    @property
    def last(self):
        return self.log[-1] if self.log else None

    def __eq__(self, other):
        return self.balance == other.balance

    def __lt__(self, other):
        return self.balance < other.balance

    def __add__(self, other):
        return Account("both", self.balance + other.balance)

    def __len__(self):
        return len(self.log)

    def __getitem__(self, place):
        return self.log[place]


class Kiosk:
    def __init__(self):
        self.takings = 0
        self.accounts = {}

    def serve(self, account, price):
        account.pay(price)
        self.takings += price
        self.accounts[account.owner] = account


bob = Account("Bob", 50)
eve = Account(balance=20, owner="Eve")
kiosk = Kiosk()
kiosk.serve(bob, 10)
kiosk.serve(eve, 5)
bob.pay(1).pay(2)
same = bob == eve
richest = max(bob, eve)
joined = bob + eve
firsts = [a for a in bob]
size = len(bob)
order = sorted([bob, eve])
try:
    eve.pay(999)
except ValueError:
    same = None
print(kiosk.takings, bob.last, richest.owner, joined.balance, firsts, size, order[0].owner)
