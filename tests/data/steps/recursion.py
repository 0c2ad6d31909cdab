def gates(n):
    if n <= 1:
        return 1
    rest = gates(n - 1)
    return rest + gates(n - 2)


def twice(f, x):
    return f(f(x))


print(gates(4))
print(twice(lambda v: v * 3, 2))
print(sorted(["pier", "Bay", "ark"], key=lambda w: w.lower()))
