"""State that lives between requests: layouts, routes, logs, searches, machines."""
