"""Names the place at fault, with evidence a learner can check."""
