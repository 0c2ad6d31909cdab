n, hours = 5, 0
while n > 0:
    n -= 2
    if n == 1:
        continue
    hours += 1
hours += 10
while True:
    hours -= 1
    if hours < 5:
        break
for k in range(3):
    for j in range(k):
        hours += j
        if j == 1:
            break
    else:
        hours += 100
for k in range(0):
    hours = -1
for k in range(3):
    n = 0
    while n < k:
        n += 1
text = ""
for letter in "dock":
    text = letter + text
print(n, hours, text)
