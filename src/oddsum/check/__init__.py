"""The first station: a plan is run and every case judged. Joins run/ and compare/."""
