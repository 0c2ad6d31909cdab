# parcels.py: which parcel goes into the hold first, the heaviest


def heaviest(lines):
    """The name of the heaviest parcel; each line is a name and its kilos."""
    names = []
    weights = []
    for line in lines:
        name, kilos = line.split(",")
        names.append(name)
        weights.append(kilos.strip())
    if not names:
        return None
    return names[weights.index(max(weights))]


lines = []
line = input("Parcel, kilos: ")
while line != "":
    lines.append(line)
    line = input("Parcel, kilos: ")
print("First:", heaviest(lines))
