def board(queue, who):
    queue.append(who)
    queue = [who]
    queue.append("last")
    return queue


def with_default(item, into=[]):
    into.append(item)
    return into


line = ["Ann"]
same = line
other = board(line, "Bo")
same.append("Cy")
grid = [[0] * 2] * 2
grid[0][1] = 5
a = with_default(1)
b = with_default(2)
copied = line[:]
copied.append("Di")
book = {"cars": line}
book["cars"].append("Ed")
first, *rest = line
left, right = 1, 2
left, right = right, left
line += ["Fa"]
line = line + ["Go"]
print(line, same, other, grid, a is b, copied, rest, left, right)
