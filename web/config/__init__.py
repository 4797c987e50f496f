"""Settings, addresses, the door to the server. No rules live here."""
