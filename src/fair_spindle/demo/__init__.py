"""The sample workshop."""
