"""The tools and supplies that a quilter owns and plans with."""
