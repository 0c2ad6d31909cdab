"""Serves a queue at the ticket window, so many each minute."""


def serve(arrivals, speed):
    queue = 0
    longest = 0
    served = 0
    for people in arrivals:
        queue += people
        if queue > longest:
            longest = queue
        done = min(queue, speed)
        queue -= done
        served += done
    return served, queue, longest
