def parse(line):
    time, place, pier = line.split(",")
    hour, minute = time.split(":")
    return int(hour) * 60 + int(minute), place.strip(), int(pier)


def board(lines):
    rows = [parse(line) for line in lines]
    rows.sort(key=lambda row: (row[0], row[2]))
    return rows


def show(minutes):
    return f"{minutes // 60:02}:{minutes % 60:02}"


def main():
    count = int(input())
    lines = [input() for _ in range(count)]
    now = int(input())
    shown = 0
    for time, place, pier in board(lines):
        if time < now:
            continue
        print(show(time), place, "pier", pier)
        shown += 1
        if shown == 3:
            break
    if shown == 0:
        print("no more today")


if __name__ == "__main__":
    main()
