scores = {}
rounds = int(input("Rounds? "))
for number in range(1, rounds + 1):
    answers = input(f"Round {number}: ")
    for piece in answers.split(","):
        if not piece.strip():
            continue
        team, right = piece.split("=")
        team = team.strip()
        gained = int(right) * 2
        if number == rounds:
            gained *= 2
        scores[team] = scores.get(team, 0) + gained
if not scores:
    print("nobody played")
else:
    best = max(scores.values())
    winners = sorted(t for t in scores if scores[t] == best)
    for team in sorted(scores, key=lambda t: (-scores[t], t)):
        print(f"{team}: {scores[team]}")
    print("won by", " and ".join(winners))
    print("behind:", sum(best - s for s in scores.values()))
