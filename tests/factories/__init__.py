"""What several test modules make and look at: clients, sessions, pages, uploads. No test lives here."""
