"""What a quilter would be told: fills that suit, contrast, lines that go on, what a pinned end costs."""
