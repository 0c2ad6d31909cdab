"""Reads engine hours day by day and prints when the oil is due."""
LIMIT = 50
hours = 0
day = 0
changes = 0
while True:
    text = input("Hours? ")
    if text == "end":
        break
    day += 1
    hours += int(text)
    if hours >= LIMIT:
        changes += 1
        print("oil on day", day)
        hours = 0
print(changes, "changes")
print(hours, "hours since")
