"""The practice bay: cars with a hidden truth, solved by a method of their own, seen only through gauges."""
