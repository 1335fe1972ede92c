"""How every line is placed: the possible orders of lines, and what each line is placed from when its turn comes."""
