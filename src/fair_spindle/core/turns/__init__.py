"""Threads and adjusters: how many turns bring the angles back, and how sure they are."""
