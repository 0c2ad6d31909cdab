def lines(log):
    try:
        yield 1
        yield 2
    finally:
        log.append("closed")


def asked():
    got = []
    while True:
        value = yield len(got)
        if value is None:
            return got
        got.append(value)


log = []
for n in lines(log):
    log.append(n)
    break
talk = asked()
next(talk)
a = talk.send("x")
b = talk.send("y")
held = lines(log)
next(held)
held.close()
thrown = lines(log)
next(thrown)
try:
    thrown.throw(KeyError("k"))
except KeyError:
    log.append("caught")
print(log, a, b)
