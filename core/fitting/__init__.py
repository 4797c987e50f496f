"""How a step is fitted to a client: what is known of the client, methods as data, one fitter a way of practicing.

Which steps make a whole proposal is decided in `core.proposing`.
"""
