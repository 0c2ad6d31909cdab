arrived = int(input("How many arrive? "))
desk_free = 0
total_wait = 0
longest = 0
late = 0
for number in range(arrived):
    line = input("Arrival and length: ").split()
    comes = int(line[0])
    takes = int(line[1])
    begins = max(comes, desk_free)
    wait = begins - comes
    total_wait += wait
    if wait > longest:
        longest = wait
    if wait > 5:
        late += 1
    desk_free = begins + takes
    print(f"{number + 1}: waits {wait}, done at {desk_free}")
if arrived > 0:
    print(f"mean wait {total_wait / arrived:.1f}")
print("longest", longest)
print("late", late)
