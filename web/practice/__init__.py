"""What the client sees: Today, Practice, Finished, My reeds; home sessions and attempts."""
