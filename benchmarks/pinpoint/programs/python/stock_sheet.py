stock = {}
lowest = {}
while True:
    line = input("> ").strip()
    if line == "end":
        break
    parts = line.split()
    if len(parts) != 3:
        print("say: in NAME N or out NAME N")
        continue
    way, name, number = parts[0], parts[1], int(parts[2])
    if way == "in":
        stock[name] = stock.get(name, 0) + number
    elif way == "out":
        if stock.get(name, 0) < number:
            print("only", stock.get(name, 0), name)
        else:
            stock[name] -= number
    else:
        print("no such way:", way)
        continue
    if name in stock and stock[name] < lowest.get(name, 1000):
        lowest[name] = stock[name]
for name in sorted(stock):
    print(f"{name:8}{stock[name]:4}{lowest[name]:4}")
print("kinds:", len([n for n in stock if stock[n] > 0]))
