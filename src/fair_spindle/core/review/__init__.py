"""After the work: readings beside their prediction, why they missed, what is still wanted, what they teach."""
