def deepest(x):
    return 10 // x


def middle(x):
    try:
        return deepest(x)
    finally:
        print("leaving")


for v in (5, 0):
    try:
        print(middle(v))
    except ZeroDivisionError:
        print("caught")
        continue
middle(0)
