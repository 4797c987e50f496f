"""Live socket, upload of attempts, tickets, stored measurements. Knows no program and no client page."""
