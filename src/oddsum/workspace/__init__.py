"""The work in hand: one object a station, and the jobs that run for them. No interface in it."""
