import heapq


class Berth:
    def __init__(self, boats):
        self.boats = boats
        self.told = []

    def tell(self, boat):
        count = len(self.boats)
        self.told.append((boat, count))
        return count


def length(boats, extra):
    count = len(boats)
    for boat in boats:
        count += extra
    return count


queue = ["Tern", "Auk", "Gull", "Skua", "Ruff", "Knot"]
print(length(queue, len(queue.pop(0))))
print(queue.pop() + str(length(queue, 1)))
berth = Berth(queue)
print(f"now {queue[0]}: {berth.tell(berth.boats.pop(0))}")
print([length(queue, 2) + len(queue.pop()) for _ in range(2)])
prices = {"day": [3, 1, 2]}
heapq.heapify(prices["day"])
print(length(prices["day"], heapq.heappop(prices["day"])), prices.setdefault("week", []) or length(queue, 3))
