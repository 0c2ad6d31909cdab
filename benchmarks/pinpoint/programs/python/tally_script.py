"""Counts cars, vans and the rest from what is typed, until a blank line."""
cars = 0
vans = 0
other = 0
line = input()
while line != "":
    kind = line.strip().lower()
    if kind == "car":
        cars += 1
    elif kind == "van":
        vans += 1
    else:
        other += 1
    line = input()
print("cars", cars)
print("vans", vans)
print("other", other)
print("all", cars + vans + other)
