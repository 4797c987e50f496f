"""What every page knows: the clinic and the person's keys."""


def clinic(request):
    membership = getattr(request, "membership", None)
    return {"clinic": getattr(request, "clinic", None), "membership": membership}
