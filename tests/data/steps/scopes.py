count = 0


def outer():
    calls = 0

    def inner(step=1, *more, key=None, **rest):
        nonlocal calls
        global count
        calls += step
        count += 1
        return calls

    inner()
    inner(2, 3, key="k", z=1)
    return inner


f = outer()
print(f(5), count, sorted(globals().keys() - {"__builtins__", "__cached__", "__file__"})[:3])


def names():
    a = 1
    b = [a]
    return sorted(locals())


print(names())
with open(__file__) as handle:
    first = handle.readline()
assert first.startswith("count"), "never"
if not count:
    pass
elif count == 3:
    print("three")
else:
    print("other")
