"""A voice through a tube in water."""
