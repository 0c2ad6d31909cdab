CARGO = {
    "name": "hold",
    "own": 0,
    "inside": [
        {"name": "crate", "own": 12, "inside": [
            {"name": "box", "own": 3, "inside": []},
            {"name": "tin", "own": 1, "inside": []},
        ]},
        {"name": "barrel", "own": 40, "inside": []},
        {"name": "pallet", "own": 8, "inside": [
            {"name": "crate", "own": 12, "inside": [{"name": "lamp", "own": 5, "inside": []}]},
        ]},
    ],
}


def weight(thing):
    total = thing["own"]
    for part in thing["inside"]:
        total += weight(part)
    return total


def depth(thing):
    deepest = 0
    for part in thing["inside"]:
        deepest = max(deepest, depth(part))
    return deepest + 1


def find(thing, name):
    if thing["name"] == name:
        return [name]
    for part in thing["inside"]:
        path = find(part, name)
        if path:
            return [thing["name"]] + path
    return []


def heaviest(thing):
    best = thing["name"], thing["own"]
    for part in thing["inside"]:
        found = heaviest(part)
        if found[1] > best[1]:
            best = found
    return best


def count(thing, name):
    here = 1 if thing["name"] == name else 0
    return here + sum(count(part, name) for part in thing["inside"])
