total = 0
longest = 0
legs = 0
late = 0
line = input("Leg (miles minutes), or end: ")
while line != "end":
    miles, minutes = line.split()
    miles = float(miles)
    minutes = int(minutes)
    legs += 1
    total += miles
    if miles > longest:
        longest = miles
    speed = miles / (minutes / 60)
    if speed < 6:
        late += 1
    print(f"Leg {legs}: {speed:.1f} knots")
    line = input("Leg (miles minutes), or end: ")
if legs == 0:
    print("No legs today")
else:
    print(f"Distance {total:.1f}, longest {longest:.1f}")
    print(f"Mean {total / legs:.2f} miles a leg, {late} slow")
