"""What a step asks for, drawn so that it can be taken hold of: every kind in the place of the reed bed."""
