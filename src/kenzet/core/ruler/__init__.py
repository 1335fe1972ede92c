"""The sums of etched lines and foot, what each line is placed from, and where the ruler is placed."""
