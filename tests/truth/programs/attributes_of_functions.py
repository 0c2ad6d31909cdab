def fare(age):
    fare.calls += 1
    return 3 if age < 16 else 6


fare.calls = 0
fare.cache = {}
total = 0
for age in (34, 9):
    if age not in fare.cache:
        fare.cache[age] = fare(age)
    total += fare.cache[age]
print(total, fare.calls)
