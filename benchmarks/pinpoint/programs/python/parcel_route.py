def parse(line):
    name, weight, stop = line.split(";")
    return {"name": name.strip(), "weight": float(weight), "stop": int(stop)}


def loads(parcels, limit):
    trips = []
    current, weight = [], 0
    for parcel in sorted(parcels, key=lambda p: (p["stop"], -p["weight"])):
        if weight + parcel["weight"] > limit:
            trips.append(current)
            current, weight = [], 0
        current.append(parcel["name"])
        weight += parcel["weight"]
    if current:
        trips.append(current)
    return trips


def by_stop(parcels):
    found = {}
    for parcel in parcels:
        found.setdefault(parcel["stop"], []).append(parcel["name"])
    return {stop: ", ".join(sorted(names)) for stop, names in sorted(found.items())}


count = int(input())
limit = float(input())
parcels = [parse(input()) for _ in range(count)]
for number, trip in enumerate(loads(parcels, limit), 1):
    print(f"Trip {number}: {' '.join(trip)}")
for stop, names in by_stop(parcels).items():
    print(f"Stop {stop}: {names}")
heavy = [p["name"] for p in parcels if p["weight"] > limit / 2]
print("Heavy:", len(heavy))
