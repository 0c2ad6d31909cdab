"""Programs whose recording is timed; each is what beginners' loops do, many times over."""

SCALARS = """
def fare(age):
    if age < 2:
        return 0
    if age <= 15:
        return 3
    return 6

total = 0
for day in range(1000):
    n = 7
    while n < 90:
        n = n + 3
        if n % 2 == 0:
            total = total + fare(n)
        else:
            total = total - 1
"""

LISTS = """
queue = []
for i in range(50):
    queue.append((i * 37) % 101)
for again in range(30):
    for i in range(len(queue)):
        for j in range(len(queue) - 1 - i):
            if queue[j] > queue[j + 1] + again:
                queue[j], queue[j + 1] = queue[j + 1], queue[j]
"""

LONG_LIST = """
levels = []
for i in range(1000):
    levels.append(i * 7 % 400)
for again in range(20):
    for i in range(1000):
        levels[i] = levels[i] + 1
"""

TEXT = """
names = ["Morgan", "Seabird", "Isle of Ayle", "Kittiwake"]
longest = ""
count = 0
for again in range(5000):
    for name in names:
        short = name.upper().strip()
        if len(short) > len(longest):
            longest = short
        count += 1
        line = f"{count}: {short}"
"""

GRID = """
deck = []
for row in range(30):
    lane = []
    for place in range(30):
        lane.append(0)
    deck.append(lane)
for again in range(10):
    for row in range(30):
        for place in range(30):
            deck[row][place] = deck[row][place] + row * place
"""

QUEUE = """
queue = []
aboard = 0
for i in range(900):
    queue.append(i * 31 % 7)
for again in range(4000):
    car = queue.pop(0)
    aboard = aboard + car
    queue.append(car)
"""

OBJECTS = """
class Ferry:
    def __init__(self, name):
        self.name = name
        self.aboard = 0
        self.lanes = []

    def load(self, cars):
        self.aboard = self.aboard + cars
        self.lanes.append(cars)

ferries = [Ferry("Morgan"), Ferry("Kea"), Ferry("Seabird")]
for trip in range(2000):
    for ferry in ferries:
        ferry.load(trip % 5)
"""

MANY_OBJECTS = OBJECTS.replace(
    'ferries = [Ferry("Morgan"), Ferry("Kea"), Ferry("Seabird")]',
    'ferries = [Ferry(f"boat {n}") for n in range(60)]',
).replace("range(2000)", "range(100)")

WORKLOADS = {
    "scalars": SCALARS,
    "lists of 50": LISTS,
    "a list of 1,000": LONG_LIST,
    "a grid of 30 by 30": GRID,
    "a queue of 900": QUEUE,
    "objects": OBJECTS,
    "60 objects": MANY_OBJECTS,
    "text": TEXT,
}
# Against the do-nothing callback; none for what is measured so that it is known.
WANTED = {
    "scalars": "at most 2",
    "text": "at most 2",
    "lists of 50": "at most 4",
    "a list of 1,000": "at most 4",
    "a grid of 30 by 30": "at most 4",
    "a queue of 900": "at most 4",
    "objects": "at most 4",
    "60 objects": "at most 4",
}
