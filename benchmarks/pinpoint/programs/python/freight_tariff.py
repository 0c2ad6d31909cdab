"""What a parcel costs, by weight and zone."""
BASE = {"near": 4, "far": 9}
HEAVY = 20


def tariff(weight, zone):
    price = BASE[zone]
    if weight > HEAVY:
        price += (weight - HEAVY) * 2
    return price


def invoice(parcels):
    total = 0
    for weight, zone in parcels:
        total += tariff(weight, zone)
    if total > 50:
        total = total * 9 / 10
    return total
