"""Simulated gauges that ship with the product, speaking as real ones would (docs/gauges.md)."""
