"""Stand-ins that ship with the app, so that everything can be tried without the real thing."""
