"""What the clinician sees of it: Rounds, the Client page, the caseload row."""
