RATES = [(1, 4.0), (5, 7.5), (20, 12.0)]
HEAVY = 0.8


def postage(weight):
    for limit, price in RATES:
        if weight <= limit:
            return price
    over = weight - RATES[-1][0]
    return RATES[-1][1] + over * HEAVY


def row(text):
    name, weight, *flags = [part.strip() for part in text.split(",")]
    return {"name": name, "weight": float(weight), "express": "x" in flags, "fragile": "f" in flags}


def price(parcel):
    cost = postage(parcel["weight"])
    if parcel["express"]:
        cost *= 1.5
    if parcel["fragile"]:
        cost += 2
    return cost


def sheet(texts):
    parcels = [row(t) for t in texts]
    lines = []
    for parcel in parcels:
        marks = "".join(k[0] for k in ("express", "fragile") if parcel[k])
        lines.append(f"{parcel['name']:<8}{marks:>3}{price(parcel):>8.2f}")
    total = sum(price(p) for p in parcels)
    lines.append(f"{'total':<8}{'':>3}{total:>8.2f}")
    return "\n".join(lines)
