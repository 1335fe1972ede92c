"""What lives between requests: quilts laid out, routes, logs, searches, machines."""
