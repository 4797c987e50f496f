"""How a step is fitted to a client: what is known of the client, methods as data, one fitter a way of practicing.

`core.proposing` decides which steps a whole proposal is made of.
"""
