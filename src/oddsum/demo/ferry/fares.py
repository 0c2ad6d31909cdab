# fares.py: what a party pays for the crossing

CHILD = 3
ADULT = 6


def fare(age):
    if age < 2:
        return 0
    if age <= 16:
        return CHILD
    return ADULT


count = int(input("How many? "))
total = 0
for i in range(count):
    age = int(input("Age? "))
    if age < 0 or age > 120:
        print("No such age:", age)
    else:
        total = total + fare(age)

print("Passengers:", count)
print("Total:", total)
