"""Reads the ages of a party and prints what they pay."""
count = int(input("How many? "))
total = 0
children = 0
for number in range(count):
    age = int(input("Age? "))
    if age < 16:
        children = children + 1
        total = total + 3
    else:
        total = total + 6
if count >= 6:
    total = total - 4
print("Passengers:", count)
print("Children:", children)
print("Total:", total)
