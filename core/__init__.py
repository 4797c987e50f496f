"""Rules of the job and all computation. Imports no Django, reads no clock, no database, no network."""
