"""What follows from the readings of a log: geometry and turns, heights, perches, clamp windows."""
