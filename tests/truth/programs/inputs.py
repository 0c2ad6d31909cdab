count = int(input("How many? "))
ages = []
for i in range(count):
    ages.append(int(input()))
name = input("Boat? ").strip()
total = 0
for age in ages:
    if age < 16:
        total += 3
    else:
        total += 6
print(name, total)
while True:
    more = input()
    if more == "no":
        break
    total += float(more)
print(f"{name}: {total:.2f}")
