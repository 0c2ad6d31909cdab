class Ferry:
    seats = 2

    def __init__(self, name):
        self.name = name
        self.aboard = []

    def board(self, who):
        if len(self.aboard) >= self.seats:
            raise ValueError(f"{self.name} is full")
        self.aboard.append(who)

    def __repr__(self):
        print("repr is called")
        return "Ferry"

    @property
    def free(self):
        return self.seats - len(self.aboard)


morgan = Ferry("Morgan")
other = morgan
try:
    for who in ("Ann", "Bo", "Cy"):
        morgan.board(who)
except ValueError as error:
    print("sorry:", error)
else:
    print("all aboard")
finally:
    print(morgan.free)
