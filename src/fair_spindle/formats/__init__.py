"""Readers and writers: the acts of the log, the job file, the printed record."""
