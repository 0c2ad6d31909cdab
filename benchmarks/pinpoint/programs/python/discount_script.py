"""Asks for the kind of trip and the number of people; prints the price."""
kind = input("Single or return? ").strip().lower()
people = int(input("People? "))
price = 6
if kind == "return":
    price = 10
total = price * people
if people >= 10:
    discount = total * 0.1
elif people >= 5:
    discount = total * 0.05
else:
    discount = 0
total = round(total - discount, 2)
print("Each:", price)
print("Total:", total)
