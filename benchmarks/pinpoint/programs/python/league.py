def points(home, away):
    if home > away:
        return 3, 0
    if home < away:
        return 0, 3
    return 1, 1


def table(games):
    rows = {}
    for home, home_goals, away, away_goals in games:
        for team in (home, away):
            rows.setdefault(team, {"points": 0, "for": 0, "against": 0})
        home_points, away_points = points(home_goals, away_goals)
        rows[home]["points"] += home_points
        rows[away]["points"] += away_points
        rows[home]["for"] += home_goals
        rows[home]["against"] += away_goals
        rows[away]["for"] += away_goals
        rows[away]["against"] += home_goals
    return rows


def ranking(games):
    rows = table(games)
    order = sorted(
        rows,
        key=lambda team: (-rows[team]["points"], rows[team]["against"] - rows[team]["for"], team),
    )
    lines = []
    for place, team in enumerate(order, 1):
        row = rows[team]
        lines.append(f"{place}. {team} {row['points']} ({row['for']}:{row['against']})")
    return lines
