lane = [3, 1]
same = lane
grid = [[0] * 2] * 2
same.append(2)
grid[0][1] = 5
tides = {"low": 1}
tides["high"] = 4
del tides["low"]


def load(deck, car):
    deck.append(car)
    deck[0] += 10


load(lane, 9)
lane.sort()
lane += [77]
x = y = 0
x, y = y + 1, x - 1
import random
random.shuffle(lane)
del y
print(lane, same, grid, tides, x)
