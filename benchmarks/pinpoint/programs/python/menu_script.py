"""A small till: reads orders until end and prints the bill."""
prices = {"tea": 2, "bun": 3, "soup": 5}
bill = 0
count = 0
unknown = []
while True:
    order = input("Order? ").strip().lower()
    if order == "end":
        break
    if order not in prices:
        unknown.append(order)
        continue
    bill += prices[order]
    count += 1
if count > 3:
    bill -= 1
print("Things:", count)
print("Bill:", bill)
if unknown:
    print("Not sold:", ", ".join(unknown))
