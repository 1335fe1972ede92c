"""The things that a quilter owns and plans with."""
