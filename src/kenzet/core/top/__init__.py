"""The quilt document and the top that it describes."""
