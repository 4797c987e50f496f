"""What came back from home: home sessions, attempts, the season and where it leads."""
