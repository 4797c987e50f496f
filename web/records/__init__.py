"""A client's whole record out as an open archive and in again; a whole clinic likewise."""
