"""Springs, bars, rubber and loads: where a car sits, and how far its wheels can go."""
