"""The rules of the job: numpy and the standard library only, no I/O, no clock, no web."""
