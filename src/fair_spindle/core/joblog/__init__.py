"""The job on the floor: what is logged, what follows from it, what may be logged next."""
