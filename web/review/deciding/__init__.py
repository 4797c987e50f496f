"""What the rules propose, what the clinician decided, contacts, and the numbers of the rules."""
