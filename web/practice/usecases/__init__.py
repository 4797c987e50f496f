"""Every write of practice: one file per thing a user does, one transaction each."""
