queue = [4, 0, 7]
total = 0
for car in queue:
    if car == 0:
        continue
    total += car
else:
    total += 100
n = 3
while n > 0:
    n -= 1
    if n == 1:
        break
for i in range(0):
    print("never")
for a, (b, *c) in [(1, (2, 3, 4))]:
    pass
print(total, n, a, b, c)
