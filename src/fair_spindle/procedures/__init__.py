"""Kinds of job as data, one file each; read by :mod:`fair_spindle.formats.procedure_file`."""
