"""`./reed bench faults`: practice through real browsers, sockets, server and database while they fail."""
