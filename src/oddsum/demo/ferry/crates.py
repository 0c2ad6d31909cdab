# crates.py: how many crates of each kind stand on the quay

count = int(input("How many crates? "))
kinds = {}
weight = 0
for number in range(count):
    kind, kilos = input("Kind and kilos: ").split()
    kinds[kind] = 1
    weight = weight + int(kilos)

for kind in sorted(kinds):
    print(kind + ":", kinds[kind])
print("Together:", weight, "kg")
if weight > 500:
    print("Two trips")
