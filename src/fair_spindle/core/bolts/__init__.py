"""Bolts: torque and tension, adapters, the order of a pattern."""
