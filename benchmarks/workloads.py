"""Programs whose recording is timed; each is what beginners' loops do, many times over."""

SCALARS = """
def fare(age):
    if age < 2:
        return 0
    if age <= 15:
        return 3
    return 6

total = 0
for day in range(300):
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
for again in range(12):
    for i in range(len(queue)):
        for j in range(len(queue) - 1 - i):
            if queue[j] > queue[j + 1] + again:
                queue[j], queue[j + 1] = queue[j + 1], queue[j]
"""

LONG_LIST = """
levels = []
for i in range(1000):
    levels.append(i * 7 % 400)
for i in range(1000):
    levels[i] = levels[i] + 1
"""

TEXT = """
names = ["Morgan", "Seabird", "Isle of Ayle", "Kittiwake"]
longest = ""
count = 0
for again in range(2000):
    for name in names:
        short = name.upper().strip()
        if len(short) > len(longest):
            longest = short
        count += 1
        line = f"{count}: {short}"
"""

WORKLOADS = {
    "scalars": SCALARS,
    "lists of 50": LISTS,
    "a list of 1,000": LONG_LIST,
    "text": TEXT,
}
