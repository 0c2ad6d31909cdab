def counter(start):
    n = start
    seen = []

    def step(by):
        nonlocal n
        n += by
        seen.append(n)
        return n

    return step


def adder(k):
    return lambda v: v + k


def outer(a):
    b = a + 1

    def middle(c):
        def inner(d):
            return a + b + c + d

        return inner(c)

    return middle(b)


one = counter(1)
two = counter(100)
x = one(1) + two(1) + two(1) + one(5)
add = adder(10)
more = adder(20)
y = add(1) + more(1)
z = outer(3)
makers = [lambda v, k=k: v * k for k in range(3)]
w = [make(2) for make in makers]
print(x, y, z, w)
