"""Expected against actual: the rules, where they first depart, and how to say it in words."""
