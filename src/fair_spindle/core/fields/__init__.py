"""What is asked: the fields of a car's record, of a baseline and of a job, built from the car's layout."""
