def first_choices(ballots, standing):
    votes = {name: 0 for name in standing}
    for ballot in ballots:
        for name in ballot:
            if name in votes:
                votes[name] += 1
                break
    return votes


def weakest(votes):
    return min(votes, key=lambda name: (votes[name], name))


def winner(ballots):
    standing = sorted({name for ballot in ballots for name in ballot})
    rounds = 0
    while len(standing) > 1:
        rounds += 1
        votes = first_choices(ballots, standing)
        for name in standing:
            if votes[name] * 2 > sum(votes.values()):
                return name, rounds
        standing.remove(weakest(votes))
    return (standing[0] if standing else None), rounds


def shares(ballots):
    standing = sorted({name for ballot in ballots for name in ballot})
    votes = first_choices(ballots, standing)
    order = sorted(standing, key=lambda name: (-votes[name], name))
    return [(name, votes[name]) for name in order]
