"""In which form the sender of a request reads the answer."""


def wants_json(request) -> bool:
    """Whether a script asked, which reads JSON; else a page is answered."""
    return request.method == "PUT" or "application/json" in request.headers.get("Accept", "")
