people = [("Bo", 9), ("Ann", 34), ("Cy", 61)]
seen = []


def key(person):
    seen.append(person[0])
    return person[1]


people.sort(key=key)
people.sort(key=lambda p: p[0])
numbers = [3, 1, 2]
numbers.sort()
numbers.reverse()
numbers.insert(0, 9)
gone = numbers.pop()
numbers.remove(9)
numbers[0:1] = [7, 8]
numbers.extend([1])
del numbers[0]
waiting = set()
waiting.add(3)
waiting.update({4})
waiting.discard(3)
book = {}
book.setdefault("a", []).append(1)
book.update(b=2)
book.pop("b")
print(people, seen, numbers, gone, waiting, book)
