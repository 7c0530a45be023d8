"""The product's own examiner: a robot tuner at practice cars, which knows only what the API tells."""
