"""The workshop's own network: its names, its certificate, and the ports it serves on."""
