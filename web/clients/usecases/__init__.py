"""Every write of this app: one file per thing a user does, one transaction each."""
