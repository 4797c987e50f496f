"""The web application. It shows and stores; all rules and computation are in the core, which it calls."""
