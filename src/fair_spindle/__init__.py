"""Fair Spindle: planner, calculator, floor guide and logbook for suspension tuners."""
