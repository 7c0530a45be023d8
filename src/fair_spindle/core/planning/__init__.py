"""Which steps a job has, in which order and position of the car, with which fasteners."""
