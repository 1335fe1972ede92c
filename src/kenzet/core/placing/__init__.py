"""How every line is placed: in which order lines can come, and what each is laid on when its turn is there."""
