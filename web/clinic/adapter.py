"""Sign-in without open sign-up: people come by invitation."""

from allauth.account.adapter import DefaultAccountAdapter


class ClosedAdapter(DefaultAccountAdapter):
    def is_open_for_signup(self, request):
        return False
