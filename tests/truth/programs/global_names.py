total = 0
log = []


def add(n):
    global total, last
    total += n
    last = n
    log.append(n)


def shadow(total):
    total += 1
    log = [total]
    return log


def reads():
    return total + len(log)


add(3)
before = reads()
inner = shadow(10)
add(4)
del last
print(total, log, before, inner)
